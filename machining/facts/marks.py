"""What holds a part and leaves its mark on what is finished already."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import hypot

import numpy as np

from machining.geometry.frames import Vector, axis
from machining.geometry.nearest import distances
from machining.holding.contacts import Contact
from machining.memo import digest
from machining.plan.document import BLANK
from machining.plan.outside import OutsideStep
from machining.world.feature import Boss, Feature, Flat, Hole
from machining.world.part import Requirement

from . import hold
from .context import PlanFacts, StationFacts
from .holdings import Marks, kind_of
from .outside import done_before

# so near a surface a contact is on it: facets of a round lie inside of it by a share of its size
ON_MM, OF_SIZE = 0.05, 0.001


@dataclass(frozen=True, slots=True)
class Marked:
    """What marks the part, by which bodies, where first (3,) in the setup's frame, what the
    drawing asks of the finish there, None where it asks nothing, and what was done to that surface
    elsewhere.
    """

    by: Marks
    bodies: tuple[str, ...]
    at: Vector
    asked: Requirement | None
    done: OutsideStep | None = None


@dataclass(frozen=True, slots=True)
class Touched:
    """A contact, whether it lies on what was cut to size, what is asked of the finish there, and
    what was done to that surface elsewhere.
    """

    contact: Contact
    finished: bool
    asked: Requirement | None
    done: OutsideStep | None


def marked(station: StationFacts, facts: PlanFacts) -> list[Marked]:
    """What leaves marks on surfaces that a setup before has cut to size, and on those of the blank
    that the drawing asks a fine finish of.
    """
    held, item = station.planned.holding, station.item
    if held is None or item is None:
        return []
    contacts = hold.as_it_comes(station, facts)
    if contacts is None:
        return []
    kind, found = kind_of(held), dict[Marks, list[Touched]]()
    known = {each.body: kind.marks(held, item, each.body) for each in contacts.every}
    pressing = [each for each in contacts.every if known[each.body] is not None]
    for each in _looked_at(pressing, station, facts):
        by = known[each.contact.body]
        minds = each.asked is not None or each.done is not None
        if by is not None and (minds or (each.finished and by.bites)):
            found.setdefault(by, []).append(each)
    return [_told(by, touched) for by, touched in found.items()]


def _told(by: Marks, touched: list[Touched]) -> Marked:
    first = max(touched, key=lambda each: (each.asked is not None, each.done is not None))
    bodies = tuple(dict.fromkeys(each.contact.body for each in touched))
    return Marked(by, bodies, np.array(first.contact.at), first.asked, first.done)


def _looked_at(
    contacts: list[Contact], station: StationFacts, facts: PlanFacts
) -> Iterator[Touched]:
    """Each with what it lies on."""
    if not contacts:
        return
    at = station.lie.pose.inverse().apply(np.array([each.at for each in contacts]))
    near = ON_MM + OF_SIZE * float(max(facts.geometry.size))
    part, blank = facts.geometry, facts.blank.state
    of = (digest(at.tolist()), part.key, blank.key)
    off_part, off_blank = blank.memo.get(
        ("how far", *of), lambda: (distances(at, part.mesh), distances(at, blank.mesh()))
    )
    of_part, as_blank = off_part <= near, off_blank <= near
    cut = of_part & ~as_blank if station.planned.takes != BLANK else np.zeros(len(at), dtype=bool)
    treated = [step for step in done_before(station, facts) if step.on_surface]
    for each, place, there, finished in zip(contacts, at, of_part, cut, strict=True):
        asked = _asked(place, facts, near) if there else None
        done = _done(treated, place, facts, near) if there else None
        yield Touched(each, bool(finished), asked, done)


def _done(
    treated: list[OutsideStep], place: Vector, facts: PlanFacts, near: float
) -> OutsideStep | None:
    """The last that was done to the surface a place of the part lies on."""
    for step in reversed(treated):
        features = [facts.geometry.feature(id) for id in step.features]
        if not features or any(each is not None and _is_on(place, each, near) for each in features):
            return step
    return None


def _asked(place: Vector, facts: PlanFacts, near: float) -> Requirement | None:
    """What asks a fine finish of the surface that a place of the part lies on."""
    limit = facts.library.settings.fine_finish_um
    for each in facts.plan.part.requirements:
        feature = facts.geometry.feature(each.feature)
        if each.finish_um is None or each.finish_um > limit or feature is None:
            continue
        if _is_on(place, feature, near):
            return each
    return None


def _is_on(place: Vector, feature: Feature, near: float) -> bool:
    if isinstance(feature, Flat):
        looks = axis(feature.faces)
        return abs(float(place @ looks) - feature.height_mm) <= near
    if not isinstance(feature, Hole | Boss):
        return False
    way = axis(feature.axis)
    off = place - np.array(feature.point)
    along = float(off @ way)
    radius = hypot(*(off - along * way))
    long = -near <= along <= feature.length_mm + near
    return long and abs(radius - feature.diameter_mm / 2.0) <= near
