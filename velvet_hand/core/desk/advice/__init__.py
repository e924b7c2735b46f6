"""The panels: one thing to do now, made of a state and what its procedure says of it."""
