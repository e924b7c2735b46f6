"""Vises: plan, procedure and simulated machine."""
