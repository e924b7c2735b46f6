"""What a holder answers: one recursive Bayesian estimate over whatever was done between two passes."""
