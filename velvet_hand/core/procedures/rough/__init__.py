"""Rough: plan, procedure and simulated machine."""
