"""Four jaw: plan, procedure and simulated machine."""
