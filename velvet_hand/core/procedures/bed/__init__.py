"""Bed: plan, procedure and simulated machine."""
