"""Clocking: plan, procedure and simulated machine."""
