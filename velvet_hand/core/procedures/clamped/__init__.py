"""The part, clamped: plan, procedure and simulated machine."""
