"""Simulated machines: what a person would see, with hidden errors. Seeded by the caller."""
