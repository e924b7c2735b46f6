"""Collet: plan, procedure and simulated machine."""
