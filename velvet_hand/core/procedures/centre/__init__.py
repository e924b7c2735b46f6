"""Centre: plan, procedure and simulated machine."""
