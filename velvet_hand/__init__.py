"""Velvet Hand: indicate work true, one clear move at a time."""

__version__ = "0.1.0"
