"""Edge: plan, procedure and simulated machine."""
