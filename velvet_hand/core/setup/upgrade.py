"""Events as they were kept once, as they are kept now. A kind of event that changes its form gets a new version here.

Version 1 of a move was a four-jaw's, with acts that other procedures stretched; its kind is told from its acts and its name. Version 1
of a verdict had value and limit as bare numbers of one kind; of an opening, a holder with every field that any holder has. Version 2
of an opening had one gain of all moves of its holder, and a mean shift whose frame was the indicator's. Since version 3 of a proof each
measure has a closing reading of its own. Since version 2 of a reading what stands behind the turns of the hand is as the dial is numbered.
"""

from __future__ import annotations

import math
from typing import Any

#: The version that events are written in, by their type; 1 where nothing is said.
VERSIONS = {
    "opened": 3,
    "move_done": 2,
    "proved": 3,
    "reading_taken": 2,
    "step_passed": 2,
    "tightened": 2,
    "gap_measured": 2,
    "reading_corrected": 2,
}


def upgraded(raw: dict[str, Any]) -> dict[str, Any]:
    """An event of any version as one of today's."""
    body = raw.get("body")
    if not isinstance(body, dict):
        return raw
    kind = body.get("type")
    if kind == "opened" and raw.get("version", 1) < 3:
        plan = body["plan"]
        holder, memory = upgraded_holder(plan["holder"]), upgraded_memory(plan.get("memory", {}))
        return {**raw, "version": 3, "body": {**body, "plan": {**plan, "holder": holder, "memory": memory}}}
    if (
        kind not in ("move_done", "proved") or raw.get("version", 1) >= 2
    ):  # a reading keeps its version: it says how it is read
        return raw
    shown, verdict = raw.get("shown"), raw.get("verdict")
    return {
        **raw,
        "version": 2,
        "shown": _move(shown) if isinstance(shown, dict) else shown,
        "verdict": _verdict(verdict) if isinstance(verdict, dict) else verdict,
    }


_ROUND = ("diameter_mm", "min_work_mm", "max_work_mm")
_FLAT = ("edge_mm", "depth_mm", "torque")
_HOLDERS: dict[str, tuple[str, ...]] = {
    "four_jaw_independent": (*_ROUND, "lead_mm", "numbering", "rings_mm", "jaw_width_mm"),
    "three_jaw": (*_ROUND, "numbering", "rings_mm", "jaw_width_mm", "runout_mm"),
    "adjustable_body": (*_ROUND, "lead_mm", "jaws", "numbering", "clearance_mm", "follows", "runout_mm"),
    "collet": (*_ROUND, "runout_mm"),
    "centres": (),
    "faceplate": (*_ROUND, "rings_mm"),
    "dowelled_housing": _ROUND,
    "mill_head": _ROUND,
    "rotary_table": _ROUND,
    "vise": (*_FLAT, "bolts_mm", "key_clearance_mm", "key_span_mm"),
    "vise_pair": (*_FLAT, "bolts_mm"),
    "fixture": (*_FLAT, "bolts_mm"),
    "surface_plate": _FLAT,
    "column": _FLAT,
}


def upgraded_holder(old: dict[str, Any]) -> dict[str, Any]:
    """A holder of version 1 with the fields that its kind has; one that has no more is left as it is."""
    if not {"diameter_mm", "edge_mm"} <= old.keys():
        return old
    kept = {key: old[key] for key in ("id", "name", "kind", "forget_before", *_HOLDERS[old["kind"]]) if key in old}
    if old["kind"] == "centres":
        kept["longest_mm"] = old["max_work_mm"]
    if "edge_mm" in kept:
        kept["edge_mm"] = kept["edge_mm"] or old["diameter_mm"]
    return kept


def upgraded_memory(old: dict[str, Any]) -> dict[str, Any]:
    """A memory of version 2 as lessons: one gain stood for every way of moving; its shift lay in no holder's frame and is left out."""
    kept: dict[str, Any] = {key: old[key] for key in ("setups", "repeat_mm", "per_tap_mm") if key in old}
    if old.get("moves"):
        gain, variance = old["gain"], old["gain_sd"] ** 2
        taught = dict.fromkeys(("gain", "gain_1", "gain_2"), ((gain, variance),))
        kept["taught"] = {**taught, "log_gain": ((math.log(max(gain, 0.1)), variance / max(gain, 0.1) ** 2),)}
    return {**kept, **({"taught": old["taught"]} if "taught" in old else {})}


def _verdict(old: dict[str, Any]) -> dict[str, Any]:
    kept = {k: v for k, v in old.items() if k not in ("kind", "value_mm", "limit_mm", "beside")}
    return {
        **kept,
        "value": {"kind": old["kind"], "mm": old["value_mm"]},
        "limit": {"kind": old["kind"], "mm": old["limit_mm"]},
        "beside": [_verdict(one) for one in old["beside"]],
    }


_EXPECTS = {
    "TIR": "tir",
    "off level": "level",
    "of lean over the limit’s length": "lean",
    "over the bar": "over_bar",
    "TIR of lean at the far end": "lean_tir",
    "when the centre is tightened": "pushed",
}


def _move(old: dict[str, Any]) -> dict[str, Any]:
    base = {
        key: old[key]
        for key in (
            "pass_no",
            "index",
            "count",
            "title",
            "sentence",
            "reason",
            "log",
            "made",
            "aims",
            "teaches",
            "rezero",
            "opens",
        )
    }
    base["needle"] = _needle(old)
    if old["asked_mm"] is not None:
        base["asked"] = {"mm": old["asked_mm"], "deg": old["direction_deg"]}
    if old["predicted_tir_mm"] is not None:
        base["expects"] = {"kind": _EXPECTS[old["predicted_word"]], "mm": old["predicted_tir_mm"]}
    if base["needle"] is None:
        base["spot"] = old["watch_station"]
    return {**base, **_own(old)}


def _needle(old: dict[str, Any]) -> dict[str, Any] | None:
    if old["needle"] == "stays":
        return None
    return {
        "station_id": old["watch_station"],
        "label": old["watch_label"],
        "deg": old["watch_deg"],
        "x_mm": old["watch_x_mm"],
        "now_mm": old["now_mm"],
        "aim_mm": old["aim_mm"],
        "goes": old["needle"],
    }


def _jaw(act: dict[str, Any]) -> dict[str, Any]:
    return {"number": act["jaw"], "at_deg": act["at_deg"], "mm": act["mm"], "key_deg": act["key_deg"]}


def _own(old: dict[str, Any]) -> dict[str, Any]:
    """What only its kind has."""
    acts, name = old["acts"], old["id"].split(".")[1:]
    first, last = acts[0], acts[-1]
    match first["do"], name[0]:
        case (("ease" | "draw_in"), _):
            ease = _jaw(first) if first["do"] == "ease" else None
            return {
                "do": "jaws",
                "draw": _jaw(last),
                "ease": ease,
                "half_sentence": old["half_sentence"],
                "back": old["back"],
            }
        case (("slacken" | "tighten"), "screws"):
            turns = [{**_jaw(a), "mm": (a["mm"] or 0.0) * (-1 if a["do"] == "slacken" else 1)} for a in acts]
            return {"do": "screws", "turns": turns}
        case "slacken", _:
            return {"do": "stage", "what": "bar_out"}
        case "tap", "axis":
            return {"do": "swing", "near": first["at_deg"] == 0.0, "mm": first["mm"]}
        case "tap", ("tap" | "tilt"):
            return {"do": "tap_round", "at_deg": last["at_deg"], "mm": last["mm"]}
        case "tap", _:
            return _tap(old, name, last)
        case "shim", _:
            return _shim(old, name)
        case "clock", "stage":
            return {"do": "stage", "what": "column_on" if name[1] == "column" else "tailstock"}
        case "clock", "dowels":
            return {"do": "swap", "mm": first["mm"] or 0.0, "at_deg": first["at_deg"]}
        case "clock", _:
            return {"do": "clock", "thing": first["thing"], "position": first["jaw"], "at_deg": first["at_deg"]}
        case "lean", _:
            return {"do": "lean", "at_deg": first["at_deg"], "mm": first["mm"]}
        case "slide", "slide":
            turn = {"mm": first["mm"], "turn_deg": first["key_deg"] or 0.0}
            return {"do": "handle", "axis": name[1], "at_deg": first["at_deg"], **turn}
        case _:  # the tailstock: its two ways stand in its name, with dots of their own
            up, near = (
                float(part) for part in old["id"].split(".tail.")[1].replace(".+", " +").replace(".-", " -").split()
            )
            return {"do": "slide", "up_mm": up, "near_mm": near}


def _tap(old: dict[str, Any], name: list[str], act: dict[str, Any]) -> dict[str, Any]:
    which = 1 if "b" in name[:2] else 0
    return {
        "do": "tap",
        "x_mm": old["blow_x_mm"],
        "toward": act["at_deg"] == 0.0,
        "mm": act["mm"],
        "pivot_mm": old["pivot_mm"],
        "slope_after": old["slope_after"],
        "thing": which,
        "whole": name[0] == "slide",
        "train": name[0] == "train",
    }


def _shim(old: dict[str, Any], name: list[str]) -> dict[str, Any]:
    measure = "jaws" if name[0] == "pack" else "bar-" if name[0] == "axis" else ""
    packets = [
        {"number": a["jaw"], "name": f"{a['thing']} {a['jaw']}", "at_deg": a["at_deg"], "mm": a["mm"] or 0.0}
        for a in old["acts"]
    ]
    if not measure:
        watched = old["watch_station"]
        measure = "up-" if watched.startswith("up-") else "bed-" if watched else "flange-"
    if measure == "bed-" and len(packets) == 4:
        said = "".join(part.get("text", "") for part in old["sentence"])
        across = [name for name in ("front left", "front right", "back left", "back right") if name in said]
        for packet, corner in zip(packets, _corners(across, packets), strict=True):
            packet["name"] = corner
    return {"do": "shim", "measure": measure, "packets": packets}


def _corners(named: list[str], packets: list[dict[str, Any]]) -> tuple[str, ...]:
    """Which way round the corners went: those of an edge from left to right, or of one from front to back."""
    across = ("front left", "front right", "back left", "back right")
    along = ("front right", "back right", "front left", "back left")
    bare = {name for name, packet in zip(across, packets, strict=True) if not packet["mm"]}
    said = set(named)
    fits = {name for name, packet in zip(across, packets, strict=True) if packet["mm"]} <= said
    return across if fits and (said - bare or not said) else along
