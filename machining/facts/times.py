"""How many parts a cycle turns out, and how many cycles a batch takes."""

from __future__ import annotations

from math import ceil

from machining.plan.document import Setup, Station


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


def in_last_load(setup: Setup, quantity: int) -> int | None:
    """How many parts the last load has, where it is not full and its parts all stand at one
    station; None otherwise.
    """
    rest = quantity % parts(setup)
    return rest if rest and len(setup.stations) == 1 else None
