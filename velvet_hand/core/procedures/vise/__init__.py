"""Vise: plan, procedure and simulated machine."""
