"""Before a part is touched: how to hold it, best first, and what is left of the tolerance."""
