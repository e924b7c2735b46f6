"""What is looked back at: a set-up's account, whether verdicts held, what drifts from piece to piece and from set-up to set-up."""
