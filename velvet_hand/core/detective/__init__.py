"""Why won't it come in? What could explain what was seen, and the one quick test that tells most."""
