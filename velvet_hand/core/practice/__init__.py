"""Practice: a hidden machine to read and to move by hand, drills made for one mistake each, and what is told afterwards."""
