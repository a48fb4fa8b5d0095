"""Who uses what of the library. Whoever has plans says so when the program starts; the library
itself knows of none.
"""

from __future__ import annotations

from collections.abc import Callable

Used = dict[tuple[str, str], list[str]]
_told: list[Callable[[], Used]] = []


def told_by(users: Callable[[], Used]) -> None:
    """From now on these are asked too."""
    if users not in _told:
        _told.append(users)


def used() -> Used:
    """The numbers of the jobs that use an item, by its kind and key."""
    found: Used = {}
    for users in _told:
        for place, numbers in users().items():
            found[place] = sorted({*found.get(place, ()), *numbers})
    return found
