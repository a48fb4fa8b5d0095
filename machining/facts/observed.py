"""What is observed of an operation while a plan is evaluated, and what it is done with."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from machining.geometry.frames import Direction, Vector
from machining.holding.contacts import Contacts
from machining.holding.held import Seat
from machining.holding.load import AnyLoad
from machining.world.tool import Assembly, Holder, Tool


@dataclass(frozen=True, slots=True)
class Kit:
    """A tool assembled with its holder, as the library has it."""

    assembly: Assembly
    tool: Tool
    holder: Holder


@dataclass(frozen=True, slots=True, eq=False)
class Held:
    """How an operation's part is held: its contacts with the clamps as they are set, which
    ``share`` of their force is left at its speed, what they leave over, and where its cut is stood
    least: ``towards`` (3,) at a place (3,) of the tool, in the station's frame, with the contacts
    that carry something then. ``of`` names what is held where that is not the part alone: what it
    is clamped to, with it; ``under`` is the same of that. ``others`` are what else it comes to, as
    at another speed, and is stood more often; ``end`` numbers all of them.
    """

    contacts: Contacts
    share: float
    seat: Seat
    loads: tuple[AnyLoad, ...]
    factor: float | None = None
    towards: Vector | None = None
    at: Vector | None = None
    carrying: tuple[int, ...] = ()
    jams: bool = False
    end: int = 0
    of: str = ""
    under: Held | None = None
    others: tuple[Held, ...] = ()

    @property
    def weakest(self) -> Held:
        """Of the part and of what it is clamped to the one that stands its cut least."""
        below = self.under
        if below is None or below.factor is None or self.factor is None:
            return self
        return below if below.factor < self.factor else self

    @property
    def unseated(self) -> Held | None:
        """The part, or else what it is clamped to, where clamps push it off what it lies on."""
        every = (self, self.under)
        return next((each for each in every if each is not None and not each.seat.seated), None)


@dataclass(frozen=True, slots=True)
class InHolding:
    """An edge comes closer to what holds the part than the shop allows: its lowest level so far
    under where the margin of a body begins, whose ``role`` and ``name`` they are; ``over_cut`` is
    for one that lies over what is cut away. ``every`` are all that are in the way, by name.
    """

    deep_mm: float
    role: str = "jaw"
    name: str = ""
    over_cut: bool = False
    every: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True, eq=False)
class PressedThin:
    """A clamp or jaw presses with a force (N) on what is so thick (mm) and free behind it, bends it
    (mm) and where, in part coordinates (3,).
    """

    body: str
    thick: float
    force_n: float
    bends_mm: float
    at: Vector
    from_mm: float  # of the setup's frame: where it begins to be so thin, upwards


@dataclass(frozen=True, slots=True)
class InHoldersWay:
    """The highest of what stands under a tool's holder: what it is, empty for the stock, and a
    place of it (mm).
    """

    name: str
    at: tuple[float, float, float]


@dataclass(frozen=True, slots=True, eq=False)
class Thin:
    """A wall or bar that an operation cuts on, as it leaves it, thin along an ``axis`` of the part:
    how far its farthest place stands from what carries it over its thickness, and the place (3,) of
    the part its cut bends most: by ``gives`` (mm/N), pushed with ``force_n``; None where that is
    not known. ``by`` names the figure that force is.
    """

    axis: int
    thick_mm: float
    ratio: float
    far_mm: float
    at: Vector
    gives: float
    force_n: float | None = None
    by: str = ""

    @property
    def bends_mm(self) -> float | None:
        return None if self.force_n is None else self.gives * self.force_n


NOTHING_MM3 = 0.01  # taken away: rounding, not metal


@dataclass(frozen=True, slots=True)
class Seen:
    """What was observed of an operation along the way, lengths in mm; None where it is no question
    or nothing is there.
    """

    depth_mm: float | None = None
    width_mm: float | None = None
    blank_side: Direction | None = None  # of the part: it is first to meet the blank's skin there
    blank_over_mm: float = 0.0  # how much more than ordered may stand on that side
    worst_depth_mm: float | None = None
    worst_width_mm: float | None = None
    cut_mm3: float | None = None
    spindle_range: str | None = None
    in_holding: InHolding | None = None
    let_go: bool = False  # the chuck holds nothing at its speed
    pressed: PressedThin | None = None  # with its cut done
    in_way: InHoldersWay | None = None  # of its holder, what it needs its stick-out for
    held: Held | None = None  # where what holds it is told by points
    thin: tuple[Thin, ...] = ()  # what it cuts on that bends, the worst first
    standing_mm: float | None = None  # stock over the mouth of a hole
    interrupted_mm: float | None = None  # depth at which a hole meets an open wall
    broken_mm: float | None = None  # of a turned cut, over which its edge meets gaps
    entry_open_mm: float | None = None  # Ø open where the tool goes down
    below_thread_mm: float | None = None
    room_before_mm: float | None = None
    room_after_mm: float | None = None
    enters_inside: bool = False  # an undercut that can't begin beside the stock
    rounds: bool = False  # a tilted cut that follows a bend
    straight_edges: int | None = None


@dataclass(frozen=True, slots=True)
class Meets:
    """At a ``position`` of its station a part of an operation's tool comes ``low_mm`` too low for a
    ``body`` at an ``other`` position of the same load, of what holds its own part, or, without a
    ``station``, of what carries them all. Positions are counted from 0.
    """

    position: int
    who: Literal["tool", "holder", "head"]
    body: str
    station: str
    other: int
    low_mm: float
