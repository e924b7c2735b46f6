"""Tram: plan, procedure and simulated machine."""
