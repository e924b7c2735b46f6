"""What this machine can hold: its plan, its procedure, its simulated machine."""
