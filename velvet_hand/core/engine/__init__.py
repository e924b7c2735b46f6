"""How procedures work: from the readings of a set-up to figures, moves and a verdict, for families of procedures."""
