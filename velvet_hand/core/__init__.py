"""The computation: pure functions and frozen models, no clock, file, network or database.

Conventions, valid everywhere below this package:

- Lengths are millimeters, angles degrees. Names carry the unit (``lead_mm``, ``angle_deg``).
- Angles run counter-clockwise, **seen from the tailstock looking at the chuck face**; 0 is to the
  right, 90 on top, 180 at the operator's side. Chuck angles count from jaw 1 and turn with it.
- ``u(t) = (cos t, sin t)``; an *offset* is the vector from the spindle axis to the center of the
  work's surface.
- A *needle* value is what the gauge shows. A *toward* value is plus when the surface is nearer the
  gauge than at zero. ``gauge.Sense`` is the only place that turns one into the other.
- TIR is highest minus lowest over a turn; off center is half of that on a round surface. Every
  name and every figure says which of the two it is.

Contents: ``units`` (typed text to length and back), ``gauge`` (gauge, sense), ``readings``,
``shop`` (machine, holder), ``fit`` (circle, form), ``verdict``, ``response`` (learned gain and
kick), ``wording`` (sentences as parts), ``scene`` (what a picture is drawn from), ``setup``
(events, fold, advice, view), ``procedures`` (one package each), ``sim`` (simulated machines).
"""
