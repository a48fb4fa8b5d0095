"""How operations follow each other in a cycle, and how many cycles a batch takes."""

from __future__ import annotations

from math import ceil

from machining.plan.document import Setup, Station

from .context import OperationFacts, SetupFacts


def in_order(setup: SetupFacts) -> list[tuple[OperationFacts, float]]:
    """Every operation of a cycle at every position as it comes, with what it waits for its tool
    (s).
    """
    most = max(each.planned.positions for each in setup.stations)
    if setup.planned.order == "by tool":
        run = [op for op in setup.operations for _ in range(op.station.planned.positions)]
    else:
        run = [
            op
            for place in range(most)
            for op in setup.operations
            if place < op.station.planned.positions
        ]
    last, found = None, []
    for op in run:
        same = last is not None and op.loaded is not None and last.id == op.loaded.id
        changes = op.rig is not None and op.loaded is not None and not same
        found.append((op, op.rig.carrier.chip_to_chip_s if op.rig is not None and changes else 0.0))
        last = op.loaded
    return found


def parts(setup: Setup) -> int:
    """How many parts leave a setup each cycle, from stations that no other of it takes from: no
    more than the station with the fewest positions on their way lets through.
    """
    known = {each.id: each for each in setup.stations}

    def through(station: Station) -> int:
        before = known.get(station.takes)
        return min(station.positions, through(before)) if before else station.positions

    taken = {each.takes for each in setup.stations}
    return sum(through(each) for each in setup.stations if each.id not in taken)


def cycles(setup: Setup, quantity: int) -> int:
    """How often a setup runs for so many parts. A part that goes from station to station in it
    needs as many cycles as it has stations to go through.
    """
    takes = {each.id: each.takes for each in setup.stations}

    def through(id: str) -> int:
        return 1 + (through(takes[id]) if takes[id] in takes else 0)

    return ceil(quantity / parts(setup)) + max(through(id) for id in takes) - 1
