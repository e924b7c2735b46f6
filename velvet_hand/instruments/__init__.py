"""Digital indicators over a port, and the simulated one that ships with it."""
