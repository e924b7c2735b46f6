"""Four independent jaws: what they do to round work, true or with a throw, in one plane or two."""
