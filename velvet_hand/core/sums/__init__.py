"""Sums of the trade: each from what is known to what is wanted, both ways where it can be turned round."""
