"""Edits as a planner says them. What they mean for a plan depends on the shop's library, so they
are put into structural edits before a plan takes them.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from machining.world.record import Id, Key, Line, NoneOrKey, Record

from .edit import Edit


class UseMachine(Record):
    """Run a setup on another machine: its tools stay behind, and what holds the part where it does
    not go on there.
    """

    do: Literal["use_machine"] = "use_machine"
    setup: Id
    machine: Key


class Hold(Record):
    """Hold the part at a station with something of the library (empty: with nothing yet), as it is
    usually held, or as it was held before where that still goes.
    """

    do: Literal["hold"] = "hold"
    station: Id
    item: NoneOrKey = ""


class UseStock(Record):
    """Cut the part from another form of stock, as large as the part needs and with what the shop
    usually leaves; the allowances that stand there stay where the form has them.
    """

    do: Literal["use_stock"] = "use_stock"
    form: Line


class Start(Record):
    """A plan's first setup: the blank with the shop's usual allowances, a machine that takes it and
    what holds it there.
    """

    do: Literal["start"] = "start"
    id: Id
    station: Id


class TurnOver(Record):
    """A further setup after one that is there: the part turned over about X or Y on the same
    machine, zero on the part, with a work offset that no setup uses yet.
    """

    do: Literal["turn_over"] = "turn_over"
    setup: Id
    id: Id
    station: Id
    about: Literal["x", "y"] = "x"


class AddStation(Record):
    """A further station beside those of a setup: the part turned over about X or Y, as the last of
    them leaves it, held in the same.
    """

    do: Literal["add_station"] = "add_station"
    setup: Id
    id: Id
    about: Literal["x", "y"] = "x"


class Load(Record):
    """So many parts at a station at one time: a row of it along X, one beside the other."""

    do: Literal["load"] = "load"
    station: Id
    parts: int = Field(ge=1, le=400)


class Together(Record):
    """The stations of another setup on the same machine into one load with those of a setup."""

    do: Literal["together"] = "together"
    setup: Id
    other: Id


class Apart(Record):
    """A station out of its load into a setup of its own, right after it."""

    do: Literal["apart"] = "apart"
    station: Id
    id: Id


TradeEdit = UseMachine | Hold | UseStock | Start | TurnOver | AddStation | Load | Together | Apart
AnyEdit = Annotated[
    Edit | UseMachine | Hold | UseStock | Start | TurnOver | AddStation | Load | Together | Apart,
    Field(discriminator="do"),
]
