"""Column: plan, procedure and simulated machine."""
