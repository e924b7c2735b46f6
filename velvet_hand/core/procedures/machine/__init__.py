"""What this machine can hold: plan, procedure and simulated machine."""
