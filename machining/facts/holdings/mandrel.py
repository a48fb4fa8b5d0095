"""An expanding mandrel: it opens evenly in a bore, and the part lies against its shoulder."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np
from shapely import Point, box

from machining.geometry.contours import FAR_MM
from machining.geometry.regions import Region
from machining.geometry.solids import section
from machining.holding.contacts import Contact
from machining.holding.patch import Patch
from machining.memo import Memo
from machining.plan.edit import Change
from machining.plan.holding import OnMandrel
from machining.plan.proposal import Proposal
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Said, Shown, length
from machining.world.machine import Machine, SpindleNose, Table
from machining.world.workholding import Mandrel

from ..context import PlanFacts, StationFacts
from ..stand import Body, Stand
from ..state import State
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
from .chuck_bodies import land
from .efforts import mandrel_closed, nose_set
from .round_contacts import lines

OPENS, LINES = "mandrel", 6  # its group, and along how many lines it touches
SHOULDER_MM, NEAR_MM = 18.0, 0.05
GRIP_SHARE = 0.8  # of its length, where nobody has said


def _fits(machine: Machine, place: Table | SpindleNose) -> str | None:
    if not isinstance(place, SpindleNose):
        return f"{machine.name} does not turn the part: a mandrel on its table is not worked out."
    return None


def bore_of(half: Region, low: float, deep: float) -> tuple[float, tuple[float, float]]:
    """The narrowest bore (mm) of a half section from its end on, and from where to where it is so
    wide; none is 0.
    """
    near = half.intersection(box(0.0, low, FAR_MM, low + deep))
    if near.is_empty:
        return 0.0, (low, low)
    radius = float(near.bounds[0])
    return 2.0 * radius, land(near, radius, (low, low + deep), 1.0)


def _stand(station: StationFacts, held: OnMandrel, mandrel: Mandrel, memo: Memo) -> Stand:
    if held.grip_mm > mandrel.length_mm:
        raise OutOfRange(
            "grip", held.grip_mm, f"up to {mandrel.length_mm:g}, the length of the mandrel"
        )
    low = float(station.lie.stock_low[2])
    bore, along = bore_of(station.arrives.half_section(), low, held.grip_mm)
    if bore <= 0.0:
        raise OutOfRange("bore", 0, "at its end: a mandrel opens in one, and there is none")
    if not mandrel.from_mm <= bore <= mandrel.to_mm:
        raise OutOfRange(
            "bore",
            round(bore, 3),
            f"from {mandrel.from_mm:g} to {mandrel.to_mm:g}, what {mandrel.name} opens in",
        )
    disc = Point(0.0, 0.0).buffer(mandrel.shoulder_mm / 2.0)
    shoulder = Body("nose", "", disc, low - SHOULDER_MM, low)
    return Stand((shoulder,), (disc.wkb, low), bore, True, False, along)


def _figures(station: StationFacts, held: OnMandrel, mandrel: Mandrel, facts: PlanFacts) -> None:
    """None: how deep it goes in says how well it carries."""


def _touches(
    station: StationFacts, held: OnMandrel, mandrel: Mandrel, state: State
) -> tuple[list[Contact], dict[str, float]]:
    """Along lines all round in the bore, and on the shoulder."""
    stand, unit = station.stand, np.eye(3)
    angles = [360.0 * k / LINES for k in range(LINES)]
    of = (stand.grips_at, stand.along, mandrel.friction, OPENS, True)
    every = lines(angles, *of)
    (shoulder,) = stand.of("nose")
    on = section(state.solid, shoulder.top + NEAR_MM).intersection(shoulder.region)
    patch = Patch(on, shoulder.top * unit[2], unit[0], unit[1], unit[2])
    every += patch.contacts(mandrel.friction, "shoulder")
    return every, {OPENS: mandrel.force_n}


def _usual(
    station: StationFacts, mandrel: Mandrel, before: OnMandrel | None, facts: PlanFacts
) -> OnMandrel:
    """As deep as the bore is so wide, if it is no longer than that."""
    low, most = float(station.lie.stock_low[2]), GRIP_SHARE * mandrel.length_mm
    _, (start, end) = bore_of(station.arrives.half_section(), low, most)
    deep = round(max(min(most, end - low), 1.0), 1) if end > start else round(most, 1)
    fields = {"mandrel": mandrel.key, "grip_mm": deep}
    return before.model_copy(update=fields) if before is not None else OnMandrel(**fields)


def _offers(station: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """The mandrels that open in the bore at its end."""
    low, half = float(station.lie.stock_low[2]), station.arrives.half_section()
    for item in facts.library.holdings.values():
        if not isinstance(item, Mandrel):
            continue
        bore, _ = bore_of(half, low, GRIP_SHARE * item.length_mm)
        if item.from_mm <= bore <= item.to_mm:
            held = _usual(station, item, None, facts)
            change = Change(on=station.on, fields={"holding": held.model_dump(mode="json")})
            yield Proposal("Hold it on the {item}", (change,), {"item": Shown(item.name)})


def _words(held: OnMandrel, mandrel: Mandrel, lying: Lying) -> HeldWords:
    limit = {"limit": Shown(lying.most_rpm, "spindle_speed")}
    return HeldWords(
        mandrel.name,
        Shown(mandrel.force_n, "force"),
        "all round, from the drawbar",
        Said("on the mandrel, against its shoulder"),
        (
            Said("Wipe mandrel, shoulder and bore; no burr at its edge."),
            Said(
                lying.handling
                + ". Push it on to the shoulder, {grip} on the mandrel."
                + lying.note,
                {"grip": length(held.grip_mm)},
            ),
            Said("Open the mandrel while the part is pushed to the shoulder." + lying.reason),
        ),
        Said(
            "Guard closed before the spindle turns; never over {limit}, nor over what the mandrel's"
            " maker allows.",
            limit,
        ),
        "Mandrel.",
        f"Never opened without a part on it. {KEEPS_FORCE}",
    )


MANDREL = HoldingKind(
    Mandrel,
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
    called="mandrel",
    stands="The mandrel stands",
    grips="The mandrel grips",
    turns=True,
    most_rpm=most_rpm,
    ends=widest,
    closed=mandrel_closed,
    set_up=nose_set,
)
