"""Shaft: plan, procedure and simulated machine."""
