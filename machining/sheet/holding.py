"""What holds the part, and what the setter does in order."""

from __future__ import annotations

from collections.abc import Iterator
from math import inf
from typing import Any

from machining.drawing.flip import flip_drawing
from machining.facts import at_angle, holdings
from machining.facts.context import PlanFacts, StationFacts
from machining.facts.covered import THIN_MM
from machining.facts.flip import MARKED, corner_words, flip_of
from machining.facts.holdings.base import HeldWords
from machining.facts.zero import picked_said, zero_said
from machining.plan.clamped import Clamped
from machining.plan.clamps_on import clamped_on
from machining.plan.document import Setup, Station
from machining.world.capability import rig, turns_work
from machining.world.library import Library

from .written import Written


def words_of(
    setup: Setup, station: Station, library: Library, answer: dict[str, Any]
) -> HeldWords | None:
    """What the holding of a station says of itself; None where nothing holds the part."""
    held = station.holding
    if held is None:
        return None
    kind = holdings.kind_of(held)
    item = kind.item_of(held, library)
    if item is None:
        return None
    beside = answer.get("bodies") or answer["jaws"]  # older releases know of jaws alone
    return kind.words(
        held,
        item,
        holdings.Lying(
            answer["handling"],
            answer["up"],
            answer["stock_high"][2] - beside[0]["top"] if beside else 0.0,
            answer["parallels_mm"],
            bool(answer.get("parallels_to_make")),
            min(_most_rpm(setup, station, library), kind.most_rpm(held, item)),
            f" ({held.reason})" if held.reason else "",
            f" {setup.note}" if setup.note else "",
            at_angle.seat_words(station.orientation, library.settings.sine_bar_mm),
            at_angle.vise_words(station.orientation, library.settings.sine_plate_mm),
            _on_at_first(setup, station),
            turns_work(library.machines[setup.machine], station.place),
        ),
    )


def _on_at_first(setup: Setup, station: Station) -> frozenset[str] | None:
    """Clamps that are on from the start; None where none change."""
    if not isinstance(station.holding, Clamped):
        return None
    own = [op for op in setup.operations if setup.station_of(op) is station]
    return clamped_on(station.holding, own).get("")


def _most_rpm(setup: Setup, station: Station, library: Library) -> float:
    with_it = rig(library.machines[setup.machine], station.place)
    return with_it.spindle.max_rpm if with_it is not None else inf


def held(station: Station, words: HeldWords | None, w: Written) -> dict[str, Any]:
    """What holds the part, with what force, how deep: words and figures of the sheet's head."""
    if words is None or station.holding is None:
        nothing = dict.fromkeys(("clamp", "clamp_unit", "clamp_where", "grip", "seat"), "")
        return {"held": "not held", **nothing}
    force, quantity = float(words.force.value), words.force.quantity
    grip = holdings.kind_of(station.holding).gripped_mm(station.holding)
    return {
        "held": words.held,
        "clamp": w.n(force, quantity),
        "clamp_unit": w.unit(quantity),
        "clamp_other": w.other(force, quantity),
        "clamp_where": words.force_where,
        "grip": w.n(grip, "length") if grip else "",
        "grip_other": w.other(grip, "length") if grip else "",
        "seat": w.said(words.seat),
    }


def loading(
    seen: StationFacts,
    facts: PlanFacts,
    words: HeldWords | None,
    answer: dict[str, Any],
    w: Written,
) -> list[str]:
    """What the setter does, in order, numbered as in the drawing."""
    station, note = seen.planned, seen.setup.planned.note and f" {seen.setup.planned.note}"
    steps = (
        [w.said_both(each) for each in words.steps]
        if words is not None
        else ["Wipe jaws and seat.", f"{answer['handling']}. {answer['up']}.{note}"]
    )
    where = ". ".join(
        w.said_both(each) for each in zero_said(station.zero, seen.turns, facts.geometry)
    )
    below = f", {w.both(under, 'length')} below the blank's" if (under := _under(seen)) else ""
    because = f" ({station.zero.reason})" if station.zero.reason else ""
    found = "; ".join(picked(seen, facts, w))
    if (flip := flip_of(seen, facts)) is not None:
        steps.append(f"The marked corner lies at the {corner_words(flip.lies)}.")
    zero = f"{station.work_offset}: {where}{below}.{because} Pick up {found}."
    return [*steps, zero, *_marks(seen, facts)]


def picked(seen: StationFacts, facts: PlanFacts, w: Written) -> list[str]:
    """How its zero is found, and how closely."""
    zero = seen.planned.zero
    ways = [w.said(each) for each in picked_said(zero, seen.turns, facts.library.settings)]
    return [*ways, "on every part"] if zero.each_part else ways


def _marks(seen: StationFacts, facts: PlanFacts) -> Iterator[str]:
    """What is marked before it goes on, where it is turned over then."""
    for other in facts.stations:
        if other.planned.takes == seen.id and flip_of(other, facts) is not None:
            yield f"Before it comes out mark its {corner_words(MARKED)}."


def flipped(seen: StationFacts, facts: PlanFacts, w: Written) -> str:
    """How it is turned over, as a drawing; empty where it is not."""
    flip = flip_of(seen, facts)
    if flip is None:
        return ""
    return flip_drawing(flip, "Turned over: the side that was up, the marked corner", w.system)


def _under(seen: StationFacts) -> float:
    """How far (mm) the top its Z is taken from lies in the stock; 0 where that is on top."""
    z, lie = seen.planned.zero.z, seen.lie
    over = float(lie.stock_high[2] - lie.part_high[2])
    on_top = z.of == "part" and z.at == "high" and not z.off_mm
    return over if on_top and over > THIN_MM else 0.0
