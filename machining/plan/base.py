"""What every operation has."""

from __future__ import annotations

from typing import Annotated, ClassVar

from pydantic import AfterValidator, Field, model_validator

from machining.geometry.frames import Direction
from machining.world.record import (
    Coolant,
    CuttingSpeed,
    Feed,
    FeedPerTurn,
    Id,
    Line,
    NoneOrId,
    NoneOrKey,
    Record,
    SecondsOrZero,
    Speed,
    Text,
)

SPEED_TYPED = ("rpm", "cutting_speed_m_min")
FEED_TYPED = ("feed_mm_min", "feed_per_tooth_mm", "feed_per_rev_mm")
_FINDING = r"^[a-z]+\.[a-z0-9-]+(/[A-Za-z0-9_-]{1,60})?$"
FindingId = Annotated[str, Field(pattern=_FINDING, max_length=120)]
Words = Annotated[Line, Field(min_length=3)]


def _turns_aside(aim: str) -> str:
    side, _, about = aim.split(" ")
    if side[1] == about:
        raise ValueError(f"aim is {aim!r}; it must turn about another axis than the side's own")
    return aim


# a side of the part turned on by an angle (degrees) about an axis of it: "+x 30 z"
_TURNED_ON = r"^[+-][xyz] -?\d{1,3}(\.\d{1,3})? [xyz]$"
TurnedOn = Annotated[str, Field(pattern=_TURNED_ON), AfterValidator(_turns_aside)]


def _once_each(kept: tuple[tuple[str, str], ...]) -> tuple[tuple[str, str], ...]:
    names = [id for id, _ in kept]
    twice = [id for id in names if names.count(id) > 1]
    if twice:
        raise ValueError(f"kept holds {twice[0]!r} twice; each finding is kept once")
    return kept


# findings to look at that the planner keeps, each with words: (finding id, words)
Kept = Annotated[
    tuple[tuple[FindingId, Words], ...], Field(max_length=60), AfterValidator(_once_each)
]


class ClampChange(Record):
    """Clamps of a station by their ids: those put ``on``, then those that come ``off``."""

    on: Annotated[tuple[Id, ...], Field(max_length=20)] = ()
    off: Annotated[tuple[Id, ...], Field(max_length=20)] = ()

    @model_validator(mode="after")
    def _changes_something(self) -> ClampChange:
        if not self.on and not self.off:
            raise ValueError("on and off are empty; a clamp change puts one on or takes one off")
        both = [id for id in self.on if id in self.off]
        if both:
            raise ValueError(f"off holds {both[0]!r}, which is put on; it must be one or the other")
        return self


class OperationBase(Record):
    """Speed (``rpm`` or ``cutting_speed_m_min``) and feed (a minute, a tooth or a turn) left empty
    follow the material's data; filled, they are the planner's own and stay what was typed.

    ``station`` may be left out where its setup has one. ``aim`` is the side of the part that looks
    at the tool, where it is not that which is up at the station: rotary axes bring it there. It may
    be turned on from there by an angle, right-handed about an axis of the part.
    ``spindle_range`` is the gear or the belt it is cut in, empty for that with the most power at
    its speed. ``proven_in`` is the material they were typed for. ``pinned`` keeps its place in the
    order.
    ``clamps_after`` is a change of clamps once it is done, with a stop of its own.
    ``stop_after`` is the message of a stop that can't be run through, ``stop_s`` how long somebody
    is at it, where that is not what the shop counts: to move clamps, to measure. ``reason`` is a
    note for the sheet; ``kept`` are findings to look at that the planner leaves as they are. What
    is changed of one is changed of all that have its ``like``, but for where they cut.
    """

    PLACES: ClassVar[frozenset[str]] = frozenset()
    VERB: ClassVar[str] = ""
    FEEDS: ClassVar[tuple[str, ...]] = FEED_TYPED  # as it may be typed, the usual one first

    id: Id
    station: NoneOrId = ""
    aim: Direction | TurnedOn | Id | None = None
    tool: NoneOrId = ""
    rpm: Speed | None = None
    cutting_speed_m_min: CuttingSpeed | None = None
    feed_mm_min: Feed | None = None
    feed_per_tooth_mm: FeedPerTurn | None = None
    feed_per_rev_mm: FeedPerTurn | None = None
    spindle_range: Line = ""
    proven_in: NoneOrKey = ""
    pinned: bool = False
    coolant: Coolant = "flood"
    reason: Text = ""
    clamps_after: ClampChange | None = None
    stop_after: Line = ""
    stop_s: SecondsOrZero | None = None
    kept: Kept = ()
    like: NoneOrId = ""

    @property
    def speed_typed(self) -> bool:
        return any(getattr(self, name) is not None for name in SPEED_TYPED)

    @property
    def feed_typed(self) -> bool:
        return any(getattr(self, name) is not None for name in FEED_TYPED)

    @model_validator(mode="after")
    def _typed_one_way(self) -> OperationBase:
        for names in (SPEED_TYPED, FEED_TYPED):
            given = [name for name in names if getattr(self, name) is not None]
            if len(given) > 1:
                raise ValueError(
                    f"{given[1]} is {getattr(self, given[1]):g}; it must be empty where {given[0]}"
                    " is typed"
                )
        return self

    @model_validator(mode="after")
    def _place_fits(self) -> OperationBase:
        on = getattr(self, "on", None)
        if on is not None and on.kind not in self.PLACES:
            raise ValueError(f"on is {on.kind!r}; it must be {' or '.join(sorted(self.PLACES))}")
        return self
