"""Dowels: plan, procedure and simulated machine."""
