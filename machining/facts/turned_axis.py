"""The axis a part turns about, as its chuck or collet brings it: how closely it lies to the axis of
what that grips.
"""

from __future__ import annotations

from machining.placing.stack_up import Link
from machining.quantities.said import Said, Shown
from machining.world.stock import Round
from machining.world.workholding import Chuck, Collet, Driver, Mandrel

from .context import PlanFacts, StationFacts
from .made import Made, NotKnown

SAME_MM = 0.02  # of diameters: what is gripped is the bar as it came
BLANK_AXIS = "blank:axis"


def gripped_axis(station: StationFacts, facts: PlanFacts) -> tuple[tuple[Link, ...], Made]:
    """What the spindle's axis may be off from the axis of what is gripped, and whose axis that is:
    of the blank's round, or of the station that turned it. Raises NotKnown.

    An indicator on what is gripped reads twice what its axis is off. Source: definition of run-out.
    """
    item = station.item
    if isinstance(item, Driver):
        raise NotKnown(
            Said("how far its centre holes are off what was turned before is not known"),
            "held",
            station.id,
        )
    if not isinstance(item, Chuck | Collet | Mandrel):
        raise NotKnown(Said("nothing says what the spindle turns it in"), "held", station.id)
    if item.run_out_mm is None:
        raise NotKnown(
            Said(
                "nobody has measured how the {item} of setup {setup} runs out",
                {"item": Shown(item.name), "setup": Shown(str(station.number))},
            ),
            "run-out",
            station.id,
        )
    link = Link(
        f"run-out:{station.id}",
        Said(
            "axis of what the {item} grips in setup {setup}",
            {"item": Shown(item.name), "setup": Shown(str(station.number))},
        ),
        item.run_out_mm / 2.0,
        f"holding:{item.name}",
    )
    return (link,), whose_axis(station, facts)


def whose_axis(station: StationFacts, facts: PlanFacts) -> Made:
    """The nearest before it that turned the part, unless it grips the bar as it came."""
    stock, at = facts.plan.stock, station.stand.grips_at
    raw = isinstance(stock, Round) and abs(stock.diameter_mm - at) < SAME_MM
    known = {each.id: each for each in facts.stations}
    before = known.get(station.planned.takes)
    while before is not None and not raw:
        if before.turns and any(op.turns for op in before.operations):
            turned = {"setup": Shown(str(before.number))}
            said = Said("axis of what is turned in setup {setup}", turned)
            return Made(f"axis:{before.id}", said, None, before)
        before = known.get(before.planned.takes)
    return Made(BLANK_AXIS, Said("axis of the blank"), None, None)
