"""Adjustable: plan, procedure and simulated machine."""
