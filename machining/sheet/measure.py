"""What the drawing asks for that a setup finishes."""

from __future__ import annotations

from machining.plan.document import Plan, Setup
from machining.quantities.units import INCH_MM
from machining.world.part import Requirement

from .written import Written


def _plain(value: float, w: Written) -> str:
    """A size of the drawing, as many digits as it has."""
    digits = f"{value:.4f}" if w.system == "metric" else f"{value / INCH_MM:.4f}"
    return digits.rstrip("0").rstrip(".")


def _signed(value: float, w: Written) -> str:
    said = _plain(value, w)
    return "0" if said in ("0", "-0") else said if said.startswith("-") else f"+{said}"


def measure(plan: Plan, setup: Setup, w: Written) -> list[dict[str, str]]:
    """Drawing requirements that this setup finishes."""
    finished: set[str] = set()
    for op in setup.operations:
        if op.kind in (
            "finish_walls",
            "finish_floor",
            "bore",
            "ream",
            "tap",
            "drill",
            "rough_pocket",
        ):
            finished |= (
                set(op.on.ids)
                if op.on.kind == "features"
                else {"outside"}
                if op.on.kind == "outside" and op.kind == "finish_walls"
                else set()
            )
        if op.kind == "turn_thread" or (op.kind == "turn_finish" and op.on.side == "outside"):
            finished.add("outside")
    rows = []
    for each in plan.part.requirements:
        if each.feature not in finished:
            continue
        said = (
            []
            if each.thread
            else [
                (_plain(each.nominal_mm, v) if each.nominal_mm is not None else "", _band(each, v))
                for v in (w, Written(w.others))
            ]
        )
        size, band = said[0] if said else (each.thread, "")
        other = (
            f"{said[1][0]} {said[1][1]}".strip() + f" {Written(w.others).unit('length')}"
            if said and size
            else ""
        )
        rows.append(
            {
                "what": each.what,
                "size": size,
                "band": band,
                "other": other,
                "with": each.measured_with,
                "often": each.how_often,
            }
        )
    return rows


def _band(each: Requirement, w: Written) -> str:
    if each.band_mm == 0:
        return ""
    return (
        f"±{_plain(each.upper_mm, w)}"
        if abs(each.upper_mm + each.lower_mm) < 1e-9
        else f"{_signed(each.upper_mm, w)} / {_signed(each.lower_mm, w)}"
    )
