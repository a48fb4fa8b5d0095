"""What adds up between two places of a part that are made one after the other."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from math import hypot

from machining.quantities.said import Said


@dataclass(frozen=True, slots=True)
class Link:
    """One thing a distance can be off by, each way (mm), with its name and where the figure is
    from: a field of the shop's settings, of a machine, of the blank. ``key`` is its own: the same
    thing met twice in a chain is one link.
    """

    key: str
    said: Said
    mm: float
    source: str

    def times(self, share: float) -> Link:
        return Link(self.key, self.said, self.mm * share, self.source)


def joined(links: Iterable[Link]) -> tuple[Link, ...]:
    """A chain without what is nothing, each thing once, the largest first. What is met twice is off
    by the same both times and counts with the larger share.
    """
    found = dict[str, Link]()
    for link in links:
        if link.mm > 0 and (link.key not in found or found[link.key].mm < link.mm):
            found[link.key] = link
    return tuple(sorted(found.values(), key=lambda each: (-each.mm, each.key)))


def worst_case(links: Iterable[Link]) -> float:
    """w = Σ|e|

    All of it at once, one way (mm). Source: worst-case tolerance stack-up.
    """
    return sum(link.mm for link in links)


def root_sum_square(links: Iterable[Link]) -> float:
    """r = √Σe²

    As far as it mostly goes (mm), the things being independent. Source: statistical tolerance
    stack-up.
    """
    return hypot(*(link.mm for link in links))
