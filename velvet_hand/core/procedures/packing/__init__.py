"""Packing: plan, procedure and simulated machine."""
