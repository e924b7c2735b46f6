"""One folder for each procedure: its plan, what it computes, and its simulated machine."""
