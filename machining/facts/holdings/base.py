"""What a kind of holding has to say for itself: on which machine it goes, how the part stands in
it, and what it holds against a cut.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass
from math import inf
from typing import Any, Generic, TypeVar

from machining.holding.contacts import Contact
from machining.memo import Memo
from machining.plan.proposal import Proposal
from machining.quantities.said import Said, Shown
from machining.world.library import Library
from machining.world.machine import Machine, SpindleNose, Table

from ..context import PlanFacts, Ready, StationFacts
from ..held import End, Layer
from ..stand import Stand
from ..state import State
from .efforts import Effort

Touches = tuple[list[Contact], dict[str, float]]
H = TypeVar("H")  # what the plan says of it
I = TypeVar("I")  # what the library has of it


def unlimited(held: object, item: object) -> float:
    """What does not turn has no speed limit of its own."""
    return inf


def as_set(op: Ready, held: object, item: object) -> Sequence[End]:
    """What does not turn keeps its force."""
    return (End(),)


def nothing_more(op: Ready, held: object, item: object, least: int | None) -> None:
    """No figures of its own."""


def on_nothing_loose(station: StationFacts, held: object, item: object) -> None:
    """It is fixed on the machine."""


def bought(held: object, item: object) -> bool:
    """It is a machine's own, and not built for one part."""
    return False


def leaves_none(held: object, item: object, body: str) -> None:
    """It leaves no mark."""


def anywhere(item: object, place: Table | SpindleNose) -> bool:
    """Wherever its kind goes."""
    return True


def by_hands_alone(station: StationFacts, held: object, item: object) -> Effort | None:
    """Nothing closes."""
    return None


def nothing_set(held: object, item: object) -> Iterator[Effort]:
    """It is there."""
    return iter(())


def all_asked(item: object) -> frozenset[str]:
    """Every field of a plan's record is asked for."""
    return frozenset()


def as_it_stands(
    station: StationFacts, held: object, item: object, operation: str, state: State, memo: Memo
) -> Stand:
    """Nothing is put on in the cycle."""
    return station.stand


def by_key(held: Any, library: Library) -> Any:
    """The library's record of its kind, None where it has none."""
    item = library.holdings.get(held.item)
    return item if item is not None and item.kind == held.kind else None


def lacks_it(held: Any, library: Library) -> str:
    return f"The library has no {held.kind} {held.item!r}."


@dataclass(frozen=True, slots=True)
class Lying:
    """How a held part lies, as a setter is told; ``most_rpm`` is what machine and holding allow,
    ``angled`` what it lies on at an angle, and what is done for that before; ``before`` is how
    what holds it is set at one. ``on`` are the clamps that are on from the start, None for all, and
    ``turns`` whether a spindle turns it.
    """

    handling: str
    up: str
    stands_out_mm: float
    parallels_mm: float | None
    parallels_to_make: bool
    most_rpm: float
    reason: str
    note: str
    angled: tuple[Said, Said] | None = None
    before: Said | None = None
    on: frozenset[str] | None = None
    turns: bool = True


@dataclass(frozen=True, slots=True)
class Marks:
    """What of a holding marks the part: in words, and whether it ``bites`` into any metal or only
    shows where a fine finish is asked for.
    """

    what: str
    bites: bool


# springs, cylinders and drawbars
KEEPS_FORCE = "What closes it keeps its force when the machine is off: hands out before it moves."


@dataclass(frozen=True, slots=True)
class HeldWords:
    """What the sheet says: what holds, with what force and where it is set, what the part sits on,
    the steps of loading in order, and the usual caution of what turns or clamps.
    """

    held: str
    force: Shown
    force_where: str
    seat: Said
    steps: tuple[Said, ...]
    caution: Said = Said()
    caution_of: str = "Chuck."
    caution_note: str = ""


@dataclass(frozen=True, slots=True)
class HoldingKind(Generic[H, I]):
    """``record`` is its type in the library, ``fits`` why it does not go to a place of a machine
    (None where it does), ``seat_mm`` how high above the table the stock's bottom stands,
    ``gripped_mm`` how much of the stock lies in it, ``longest_mm`` how much at most, ``force`` what
    it is set to.

    ``depth`` is the field that says so, ``deeper`` and ``shallower`` the next grip that the shop's
    parallels give, at least or at most as deep as asked (mm). ``usual`` is how an item mostly holds
    the part of a station, or as it was held before in another of its kind; ``offers`` are all that
    take it.

    ``stand`` raises OutOfRange where the part does not go into it; ``figures`` are those of the
    station. ``touches`` are points on the stock as it lies in it, with the forces (N) of their
    groups as they are set; ``ends`` what is left of those when an operation is done, ``at_speed``
    fills figures of the one that is stood least. ``turns`` is for what turns with the part,
    ``most_rpm`` how fast it may; ``tighten`` are ways to a holding factor. ``put_on``
    is how it stands from an operation on, once the part is as it is then; ``under`` is what the
    part is clamped to where that is a body of its own.

    ``unasked`` are fields of the plan's record that mean nothing for an item of the library.
    ``built`` says whether it was made for one part, and so has a first run.
    ``marks`` is what one of its bodies leaves on what it presses.
    ``goes`` says whether one of the library goes to a place that its kind fits.
    ``closed`` is what hands do to close it on a part and to open it, ``set_up`` before the first.
    ``item_of`` is all that the library has of what holds it, ``lacks`` what it has not, in words.
    """

    record: type[Any]
    fits: Callable[[Machine, Table | SpindleNose], str | None]
    seat_mm: Callable[[H, I], float]
    gripped_mm: Callable[[H], float]
    force: Callable[[H, I], Shown]
    longest_mm: Callable[[I], float]
    depth: str
    deeper: Callable[[I, float], float]
    shallower: Callable[[I, float], float]
    usual: Callable[[StationFacts, Any, H | None, PlanFacts], H]
    offers: Callable[[StationFacts, PlanFacts], Iterator[Proposal]]
    stand: Callable[[StationFacts, H, I, Memo], Stand]
    figures: Callable[[StationFacts, H, I, PlanFacts], None]
    touches: Callable[[StationFacts, H, I, State], Touches]
    tighten: Callable[[Ready, H, I, float], Iterator[Proposal]]
    words: Callable[[H, I, Lying], HeldWords]
    called: str = "jaws"
    stands: str = "The jaws stand"
    grips: str = "The jaws grip"
    each: str = ""  # of what there are several, each set to its force
    turns: bool = False
    most_rpm: Callable[[H, I], float] = unlimited
    ends: Callable[[Ready, H, I], Sequence[End]] = as_set
    at_speed: Callable[[Ready, H, I, int | None], None] = nothing_more
    put_on: Callable[[StationFacts, H, I, str, State, Memo], Stand] = as_it_stands
    under: Callable[[StationFacts, H, I], Layer | None] = on_nothing_loose
    item_of: Callable[[H, Library], I | None] = by_key
    lacks: Callable[[H, Library], str] = lacks_it
    unasked: Callable[[I], frozenset[str]] = all_asked
    built: Callable[[H, I], bool] = bought
    goes: Callable[[I, Table | SpindleNose], bool] = anywhere
    marks: Callable[[H, I, str], Marks | None] = leaves_none
    closed: Callable[[StationFacts, H, I], Effort | None] = by_hands_alone
    set_up: Callable[[H, I], Iterator[Effort]] = nothing_set
