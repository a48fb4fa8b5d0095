"""A collet: a slit sleeve that closes all round on one diameter."""

from __future__ import annotations

from collections.abc import Iterator
from math import pi, tan

from shapely import Point

from machining.geometry.regions import Region
from machining.geometry.solids import below, outline
from machining.holding.contacts import Contact
from machining.memo import Memo
from machining.plan.edit import Change
from machining.plan.holding import InCollet
from machining.plan.proposal import Proposal
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Said, Shown, length
from machining.world.machine import Machine, SpindleNose, Table
from machining.world.workholding import Collet

from ..context import PlanFacts, StationFacts
from ..stand import Body, Stand
from ..state import State
from . import rests
from .base import KEEPS_FORCE, HeldWords, HoldingKind, Lying
from .by_drawbar import (
    as_asked,
    force_of,
    goes_in,
    length_of,
    most_rpm,
    nothing_to_set,
    on_no_table,
    widest,
)
from .efforts import chuck_closed, nose_set
from .grip_needed import grip_needed
from .round_contacts import flats, lines
from .round_grip import flat_at, is_round, meets, round_or_flats

FLATS = {"hexagon": 6, "square": 4}
RING, LINES = "collet", 6  # along how many lines a round is touched
GRIP_SHARE = 0.8  # of a collet's length, where nobody has said


def _fits(machine: Machine, place: Table | SpindleNose) -> str | None:
    if not isinstance(place, SpindleNose):
        return f"{machine.name} does not turn the part: a collet on its table is not worked out."
    return None


def _stand(station: StationFacts, holding: InCollet, collet: Collet, memo: Memo) -> Stand:
    low = float(station.lie.stock_low[2])
    key = ("gripped-round", station.arrives.key, holding.grip_mm, "outside")
    shadow = memo.get(
        ("shadow", *key), lambda: outline(below(station.arrives.solid, low + holding.grip_mm))
    )
    diameter = _across(shadow, collet)
    if not collet.grips_mm - collet.range_mm <= diameter <= collet.grips_mm:
        raise OutOfRange(
            "diameter gripped",
            round(diameter, 3),
            f"from {collet.grips_mm - collet.range_mm:g} to {collet.grips_mm:g}, what"
            f" {collet.name} closes on",
        )
    if holding.grip_mm > collet.length_mm:
        raise OutOfRange(
            "grip", holding.grip_mm, f"up to {collet.length_mm:g}, the length of the collet"
        )
    top, axis = low + holding.grip_mm, Point(0.0, 0.0)
    ring = axis.buffer(collet.nose_mm / 2.0).difference(axis.buffer(diameter / 2.0))
    nose = Body("nose", "", ring, top - collet.length_mm, top)
    stand = Stand((nose,), (ring.wkb, top), diameter)
    return rests.with_rests(station, holding, stand)


def _across(shadow: Region, collet: Collet) -> float:
    """Across (mm) what the collet closes on. Raises OutOfRange for another profile than its own."""
    if is_round(shadow) != (collet.profile == "round"):
        found = "round" if is_round(shadow) else "not round"
        raise OutOfRange(
            "stock in the collet", found, f"{collet.profile}, the profile of {collet.name}"
        )
    if collet.profile == "round":
        return round_or_flats(shadow, 0.0)
    flats = FLATS[collet.profile]
    turn = flat_at(shadow)
    meets(shadow, [turn + 360.0 * k / flats for k in range(flats)], f"the flats of {collet.name}")
    return round_or_flats(shadow, turn)


def _figures(station: StationFacts, holding: InCollet, collet: Collet, facts: PlanFacts) -> None:
    """The figure grip_needed, as for jaws."""
    grip_needed(station, facts)


def _touches(
    station: StationFacts, holding: InCollet, collet: Collet, state: State
) -> tuple[list[Contact], dict[str, float]]:
    """Along lines all round, or flatly; a closed ring is thrown out by no speed."""
    at, low = station.stand.grips_at, float(station.lie.stock_low[2])
    along, of = (low, low + holding.grip_mm), (collet.friction, RING)
    if collet.profile == "round":
        every = lines([360.0 * k / LINES for k in range(LINES)], at, along, *of)
    else:
        count, turn = FLATS[collet.profile], flat_at(station.arrives.outline())
        angles = [turn + 360.0 * k / count for k in range(count)]
        every = flats(angles, at * tan(pi / count), at, along, *of)
    more, groups = rests.contacts(station, holding, state)
    return [*every, *more], {RING: collet.force_n, **groups}


def _usual(
    station: StationFacts, collet: Collet, before: InCollet | None, facts: PlanFacts
) -> InCollet:
    if before is not None:
        grip_mm = min(before.grip_mm, collet.length_mm)
        return before.model_copy(update={"collet": collet.key, "grip_mm": grip_mm})
    return InCollet(collet=collet.key, grip_mm=round(GRIP_SHARE * collet.length_mm, 1))


def _offers(station: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """The collets that close on the stock."""
    across = float(station.lie.stock_high[0] - station.lie.stock_low[0])
    for item in facts.library.holdings.values():
        if isinstance(item, Collet) and item.grips_mm - item.range_mm <= across <= item.grips_mm:
            fields = {"holding": _usual(station, item, None, facts).model_dump()}
            yield Proposal(
                "Hold it in the {collet}",
                (Change(on=station.on, fields=fields),),
                {"collet": Shown(item.name)},
            )


def _words(holding: InCollet, collet: Collet, lying: Lying) -> HeldWords:
    limit = {"limit": Shown(lying.most_rpm, "spindle_speed")}
    return HeldWords(
        collet.name,
        Shown(collet.force_n, "force"),
        "all round, from the drawbar",
        Said("in the collet"),
        (
            Said("Wipe collet and stock. The collet's size stands on its face."),
            Said(
                lying.handling + ". {out} stands out of the collet." + lying.note,
                {"out": length(lying.stands_out_mm)},
            ),
            Said("Close the collet." + lying.reason),
            *rests.steps(holding),
        ),
        Said(
            "Guard closed before the spindle turns; never over {limit}, nor over what the collet's"
            " maker allows.",
            limit,
        ),
        "Collet.",
        f"{KEEPS_FORCE} A bar that stands out behind needs its guide.",
    )


COLLET = HoldingKind(
    Collet,
    _fits,
    on_no_table,
    goes_in,
    force_of,
    length_of,
    "grip_mm",
    as_asked,
    as_asked,
    _usual,
    _offers,
    _stand,
    _figures,
    _touches,
    nothing_to_set,
    _words,
    called="collet",
    stands="The collet stands",
    grips="The collet grips",
    turns=True,
    most_rpm=most_rpm,
    ends=widest,
    put_on=rests.put_on,
    closed=chuck_closed,
    set_up=nose_set,
)
