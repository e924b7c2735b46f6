"""A spindle turned by hand, or a table run along, while an indicator streams: where it was when, and what the surface is."""
