"""Tailstock: plan, procedure and simulated machine."""
