"""Throw: plan, procedure and simulated machine."""
