"""Papers of a set-up: a page to print, and the same as PDF."""
