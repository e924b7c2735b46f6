"""A set-up: its events, the fold that makes a state of them, advice and view."""
