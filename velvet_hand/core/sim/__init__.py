"""Rigid bodies, hands and usual plans that the simulated machines are made of."""
