"""Cases that hold Python's and the web's rounding to the same figures. Writes format.json.

The expected text comes from decimal arithmetic on exact values, not from either implementation.
"""

import json
import random
from decimal import ROUND_HALF_UP, Decimal
from pathlib import Path

MM_PER = {"thou": Decimal("0.0254"), "tenth": Decimal("0.00254"), "mm": Decimal(1), "um": Decimal("0.001")}
PLACES = {  # decimals for each gauge resolution, worked out by hand
    0.000508: {"thou": 2, "tenth": 1, "mm": 3, "um": 0},
    0.00254: {"thou": 1, "tenth": 0, "mm": 3, "um": 0},
    0.002: {"thou": 1, "tenth": 0, "mm": 3, "um": 0},
    0.0002: {"thou": 2, "tenth": 1, "mm": 4, "um": 1},
}
WORD = {"thou": "thou", "tenth": "tenths", "mm": "mm", "um": "µm"}


def expected(mm: Decimal, unit: str, places: int, signed: bool) -> str:
    value = (mm / MM_PER[unit]).quantize(Decimal(1).scaleb(-places), ROUND_HALF_UP)
    sign = "" if value == 0 else "\u2212" if value < 0 else "+" if signed else ""
    return f"{sign}{abs(value)} {WORD[unit]}"


def main() -> None:
    chance = random.Random(11)
    cases = []
    for resolution, places in PLACES.items():
        for unit in MM_PER:
            for _ in range(12):
                mm = Decimal(chance.randint(-40000, 40000)) / 10000
                signed = chance.random() < 0.5
                text = expected(mm, unit, places[unit], signed)
                cases.append(
                    {"mm": float(mm), "unit": unit, "resolution_mm": resolution, "signed": signed, "text": text}
                )
    half = [
        ("0.0635", "thou", 0.00254, "2.5 thou"),
        ("0.05715", "thou", 0.00254, "2.3 thou"),
        ("-0.00001", "mm", 0.002, "0.000 mm"),
    ]
    cases += [{"mm": float(m), "unit": u, "resolution_mm": r, "signed": False, "text": t} for m, u, r, t in half]
    Path(__file__).with_name("format.json").write_text(json.dumps(cases, ensure_ascii=False, indent=0) + "\n")


if __name__ == "__main__":
    main()
