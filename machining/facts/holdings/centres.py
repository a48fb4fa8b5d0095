"""Between centres: a face driver bites into one end as the tailstock presses the part on. All of
its outside is free.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from math import cos, inf, pi, sin

from shapely import Point

from machining.geometry.contours import runs_at
from machining.geometry.regions import Region
from machining.geometry.solids import ROUND_STEPS, section
from machining.holding.contacts import Contact
from machining.memo import Memo
from machining.plan.edit import Change
from machining.plan.holding import BetweenCentres
from machining.plan.proposal import Proposal
from machining.quantities.errors import OutOfRange
from machining.quantities.said import Said, Shown
from machining.world.machine import Machine, SpindleNose, Table
from machining.world.workholding import Driver

from ..context import PlanFacts, Ready, StationFacts
from ..held import TAIL, scale_for
from ..stand import Body, Stand
from ..state import State
from . import rests
from .base import KEEPS_FORCE, HeldWords, HoldingKind, Lying
from .by_drawbar import widest
from .efforts import centres_closed, nose_set

DRIVER, OWN_CENTRE = "driver", "driver's centre"
TEETH, RIM = 8, 12  # places of its ring, and round its centre's hole
STANDS_MM, NEAR_MM = 40.0, 0.05  # out of the spindle, as it is shown
USUAL_SHARE = 0.5  # of the most a tailstock presses with
STEP_N = 100.0
CENTRE_OUT = (
    "The tailstock's centre is out: its end is cut, or has no hole for it. Nothing presses the part"
    " on its driver then."
)


def _fits(machine: Machine, place: Table | SpindleNose) -> str | None:
    if not isinstance(place, SpindleNose):
        return f"{machine.name} does not turn the part: centres on its table are not worked out."
    if place.tailstock_n is None:
        return f"{machine.name} has no tailstock to press a part on a driver with."
    return None


def hole_at(half: Region, z: float) -> float:
    """The diameter (mm) that is open on the axis at an end, 0 where there is none."""
    row = runs_at(half, z)
    return 2.0 * row[0][0] if row else 0.0


def end_at(half: Region, z: float) -> float:
    """How wide (mm) the part is there."""
    row = runs_at(half, z)
    return 2.0 * row[-1][1] if row else 0.0


def _stand(station: StationFacts, held: BetweenCentres, driver: Driver, memo: Memo) -> Stand:
    low, half = float(station.lie.stock_low[2]), station.arrives.half_section()
    hole, end = hole_at(half, low + NEAR_MM), end_at(half, low + NEAR_MM)
    if not rests.LEAST_HOLE_MM <= hole <= driver.centre_mm:
        raise OutOfRange(
            "centre hole at the driven end",
            round(hole, 3),
            f"from {rests.LEAST_HOLE_MM:g} to {driver.centre_mm:g} wide, drilled in a setup before",
        )
    if not driver.from_mm <= end <= driver.to_mm:
        raise OutOfRange(
            "driven end",
            round(end, 3),
            f"from {driver.from_mm:g} to {driver.to_mm:g} wide, what {driver.name} drives",
        )
    region = Point(0.0, 0.0).buffer(driver.teeth_mm / 2.0, quad_segs=ROUND_STEPS // 4)
    body = Body("nose", DRIVER, region, low - STANDS_MM, low)
    stand = Stand((body,), (region.wkb, low), inside=True)
    return rests.with_rests(station, held, stand)


def _put_on(
    station: StationFacts,
    held: BetweenCentres,
    driver: Driver,
    operation: str,
    state: State,
    memo: Memo,
) -> Stand:
    """Without the tailstock's centre nothing holds it, and that is said."""
    stand = rests.put_on(station, held, driver, operation, state, memo)
    now = stand.during.get(operation)
    if now is None or TAIL in now.on:
        return stand
    during = {**stand.during, operation: replace(now, problem=CENTRE_OUT)}
    return replace(stand, during=during)


def _figures(station: StationFacts, held: BetweenCentres, driver: Driver, facts: PlanFacts) -> None:
    """None: what it drives with is what presses it on."""


def _touches(
    station: StationFacts, held: BetweenCentres, driver: Driver, state: State
) -> tuple[list[Contact], dict[str, float]]:
    """Teeth bear and hold aside by what presses on them; the sprung centre only keeps the end on
    the axis. The tailstock's centre is all that presses.
    """
    low, half = float(station.lie.stock_low[2]), state.half_section()
    found, groups = rests.contacts(station, held, state)
    face, radius = section(state.solid, low + NEAR_MM), driver.teeth_mm / 2.0
    for k in range(TEETH):
        x, y = (radius * each(2.0 * pi * k / TEETH) for each in (cos, sin))
        if face.distance(Point(x, y)) <= NEAR_MM:
            found.append(Contact((x, y, low), (0.0, 0.0, 1.0), driver.friction, DRIVER))
    rim = hole_at(half, low + NEAR_MM) / 2.0
    for k in range(RIM if rim > 0.0 else 0):
        c, s = cos(2.0 * pi * k / RIM), sin(2.0 * pi * k / RIM)
        found.append(Contact((rim * c, rim * s, low), (c, s, 0.0), 0.0, OWN_CENTRE))
    return found, groups


def _tighten(op: Ready, held: BetweenCentres, driver: Driver, factor: float) -> Iterator[Proposal]:
    more, nose = scale_for(op, factor), op.station.place
    if more is None or not isinstance(nose, SpindleNose) or nose.tailstock_n is None:
        return
    force = STEP_N * -(-more * held.tailstock_n // STEP_N)
    if force <= nose.tailstock_n:
        change = Change(on=op.station.on, fields={"holding.tailstock_n": force})
        yield Proposal("Press it on with {force}", (change,), {"force": Shown(force, "force")})


def _none_mm(held: object) -> float:
    return 0.0


def _no_seat(held: object, item: object) -> float:
    return 0.0


def _as_it_is(item: object, asked: float) -> float:
    return 0.0


def _force(held: BetweenCentres, driver: Driver) -> Shown:
    return Shown(held.tailstock_n, "force")


def _most_rpm(held: BetweenCentres, driver: Driver) -> float:
    return min(driver.max_rpm, held.limit_rpm or inf)


def _usual(
    station: StationFacts, driver: Driver, before: BetweenCentres | None, facts: PlanFacts
) -> BetweenCentres:
    if before is not None:
        return before.model_copy(update={"driver": driver.key})
    most = station.place.tailstock_n if isinstance(station.place, SpindleNose) else None
    return BetweenCentres(driver=driver.key, tailstock_n=USUAL_SHARE * (most or 4000.0))


def _offers(station: StationFacts, facts: PlanFacts) -> Iterator[Proposal]:
    """Where both ends have a hole for a centre."""
    half, low = station.arrives.half_section(), float(station.lie.stock_low[2])
    nose = station.place
    if not isinstance(nose, SpindleNose) or not rests.has_centre(half, nose.centre_mm):
        return
    for item in facts.library.holdings.values():
        if not isinstance(item, Driver):
            continue
        hole, end = hole_at(half, low + NEAR_MM), end_at(half, low + NEAR_MM)
        if rests.LEAST_HOLE_MM <= hole <= item.centre_mm and item.from_mm <= end <= item.to_mm:
            held = _usual(station, item, None, facts)
            change = Change(on=station.on, fields={"holding": held.model_dump(mode="json")})
            yield Proposal("Hold it between centres, {item}", (change,), {"item": Shown(item.name)})


def _words(held: BetweenCentres, driver: Driver, lying: Lying) -> HeldWords:
    limit = {"limit": Shown(lying.most_rpm, "spindle_speed")}
    return HeldWords(
        driver.name,
        _force(held, driver),
        "from the tailstock",
        Said("between centres"),
        (
            Said("Wipe both centres and their holes; teeth sharp, none broken. Grease the hole."),
            Said(lying.handling + ". Lift it between the centres." + lying.note),
            Said(
                "Tailstock on with {force}: the teeth bite in. Turn it by hand once, then press"
                " again; quill locked." + lying.reason,
                {"force": _force(held, driver)},
            ),
            *rests.steps(held)[: 1 if held.steady_mm is not None else 0],
        ),
        Said(
            "Guard closed before the spindle turns; never over {limit}, nor without the tailstock"
            " pressed on: the part comes out.",
            limit,
        ),
        "Centres.",
        f"The pressure is looked at before every start. {KEEPS_FORCE}",
    )


CENTRES = HoldingKind(
    Driver,
    _fits,
    _no_seat,
    _none_mm,
    _force,
    _none_mm,
    "",
    _as_it_is,
    _as_it_is,
    _usual,
    _offers,
    _stand,
    _figures,
    _touches,
    _tighten,
    _words,
    called="driver",
    stands="The driver stands",
    grips="The driver holds",
    turns=True,
    most_rpm=_most_rpm,
    ends=widest,
    put_on=_put_on,
    closed=centres_closed,
    set_up=nose_set,
)
