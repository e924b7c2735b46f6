"""The sample world."""
