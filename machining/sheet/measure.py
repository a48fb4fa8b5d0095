"""What the drawing asks for that a setup finishes."""

from __future__ import annotations

from collections.abc import Iterable

from machining.facts.context import PlanFacts
from machining.facts.made import NotKnown, ends_of
from machining.plan.document import Setup
from machining.plan.operation import Operation
from machining.quantities.units import INCH_MM
from machining.world.part import Requirement

from .written import Written

# kinds of operation after which a feature of the drawing has its size
MAKE_SIZE = ("finish_walls", "finish_floor", "bore", "ream", "tap", "drill", "rough_pocket")


def _plain(value: float, w: Written) -> str:
    """A size of the drawing, as many digits as it has."""
    digits = f"{value:.4f}" if w.system == "metric" else f"{value / INCH_MM:.4f}"
    return digits.rstrip("0").rstrip(".")


def _signed(value: float, w: Written) -> str:
    said = _plain(value, w)
    return "0" if said in ("0", "-0") else said if said.startswith("-") else f"+{said}"


def measure(facts: PlanFacts, setup: Setup, w: Written) -> list[dict[str, str]]:
    """Drawing requirements that this setup finishes; each stands on some sheet."""
    asked = facts.plan.part.requirements
    return [_row(each, w) for each in asked if setup.id in _setups_of(each, facts)]


def _setups_of(asked: Requirement, facts: PlanFacts) -> set[str]:
    """The setups that finish the place itself, else the one that makes the later end of the
    distance, else the last one.
    """
    setups = facts.plan.setups
    found = {
        each.id for each in setups if any(asked.feature in _finishes(op) for op in each.operations)
    }
    return found or {_later_end(asked, facts) or setups[-1].id}


def _later_end(asked: Requirement, facts: PlanFacts) -> str | None:
    try:
        ends = [end for pair, _, _ in ends_of(asked, facts) for end in pair]
    except NotKnown:
        return None
    stations = [each.station for each in ends if each.station is not None]
    last = max(stations, key=facts.stations.index, default=None)
    return last.setup.planned.id if last is not None else None


def _finishes(op: Operation) -> Iterable[str]:
    """What of the drawing's places has its size after an operation."""
    if op.kind == "turn_thread":
        return ("outside",)
    if op.kind == "turn_finish":
        return ("outside",) if op.on.side == "outside" else ()
    if op.kind in MAKE_SIZE and op.on.kind == "features":
        return op.on.ids
    return ("outside",) if op.kind == "finish_walls" and op.on.kind == "outside" else ()


def _row(each: Requirement, w: Written) -> dict[str, str]:
    size, band, other = each.thread, "", ""
    if not each.thread:
        size, band = _said(each, w)
        there = Written(w.others)
        if size:
            other = " ".join([*filter(None, _said(each, there)), there.unit("length")])
    return {
        "what": each.what,
        "size": size,
        "band": band,
        "other": other,
        "with": each.measured_with,
        "often": each.how_often,
    }


def _said(each: Requirement, w: Written) -> tuple[str, str]:
    """Its size and its band."""
    return (_plain(each.nominal_mm, w) if each.nominal_mm is not None else "", _band(each, w))


def _band(each: Requirement, w: Written) -> str:
    if each.band_mm == 0:
        return ""
    return (
        f"±{_plain(each.upper_mm, w)}"
        if abs(each.upper_mm + each.lower_mm) < 1e-9
        else f"{_signed(each.upper_mm, w)} / {_signed(each.lower_mm, w)}"
    )
