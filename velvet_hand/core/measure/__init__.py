"""What can be read: spots, a ring, an edge, a face. Each knows its own indicator, its own closing reading and its own zero."""
