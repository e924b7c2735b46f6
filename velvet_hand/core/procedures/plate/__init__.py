"""Plate: plan, procedure and simulated machine."""
