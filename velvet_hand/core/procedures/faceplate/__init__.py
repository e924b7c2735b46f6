"""Faceplate: plan, procedure and simulated machine."""
