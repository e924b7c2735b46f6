"""Center: plan, procedure and simulated machine."""
