"""Two planes: plan, procedure and simulated machine."""
