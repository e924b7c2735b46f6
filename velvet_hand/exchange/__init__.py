"""Everything in and out, in open formats."""
