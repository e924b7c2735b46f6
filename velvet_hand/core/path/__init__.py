"""The way through a set-up: steps, hold points, cautions, and checks of a plan that several procedures share."""
