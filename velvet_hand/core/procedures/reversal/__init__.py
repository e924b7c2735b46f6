"""Reversal: plan, procedure and simulated machine."""
