"""Speed and passes, measured. ``./velvet bench`` prints the tables; no test depends on a time."""
