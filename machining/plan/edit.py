"""What can be done to a plan: structural edits, and one ``change`` of fields. A request holds a
list, all or none.
"""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from machining.world.part import Part
from machining.world.record import Id, Record
from machining.world.stock import Stock

from .base import FindingId
from .document import LoadedTool, Setup, Station
from .operation import Operation


class SetPart(Record):
    do: Literal["set_part"] = "set_part"
    part: Part


class SetStock(Record):
    do: Literal["set_stock"] = "set_stock"
    stock: Stock


class AddSetup(Record):
    do: Literal["add_setup"] = "add_setup"
    setup: Setup
    index: int | None = Field(None, ge=0)


class RemoveSetup(Record):
    do: Literal["remove_setup"] = "remove_setup"
    setup: Id


class MoveSetup(Record):
    do: Literal["move_setup"] = "move_setup"
    setup: Id
    index: int = Field(ge=0)


class PutStation(Record):
    """A further station into a setup."""

    do: Literal["put_station"] = "put_station"
    setup: Id
    station: Station
    index: int | None = Field(None, ge=0)


class RemoveStation(Record):
    """With all its operations; what took from it takes what it took."""

    do: Literal["remove_station"] = "remove_station"
    station: Id


class FlipStation(Record):
    """Turn the part over in a station, about the machine's X or Y (or half round about Z)."""

    do: Literal["flip_station"] = "flip_station"
    station: Id
    about: Literal["x", "y", "z"]


class AddOperation(Record):
    do: Literal["add_operation"] = "add_operation"
    setup: Id
    operation: Operation
    index: int | None = Field(None, ge=0)


class RemoveOperation(Record):
    do: Literal["remove_operation"] = "remove_operation"
    operation: Id


class MoveOperation(Record):
    """To a place in the same or another setup; a tool of another machine is left behind."""

    do: Literal["move_operation"] = "move_operation"
    operation: Id
    setup: Id
    index: int = Field(ge=0)


class DuplicateOperation(Record):
    do: Literal["duplicate_operation"] = "duplicate_operation"
    operation: Id
    new_id: Id


class LoadTool(Record):
    do: Literal["load_tool"] = "load_tool"
    tool: LoadedTool


class UnloadTool(Record):
    do: Literal["unload_tool"] = "unload_tool"
    tool: Id


class Change(Record):
    """New values for fields of ``plan``, ``setup:ID``, ``station:ID``, ``operation:ID`` or
    ``tool:ID``; a dot reaches inside.
    """

    do: Literal["change"] = "change"
    on: str = Field(pattern=r"^(plan|(setup|station|operation|tool):[A-Za-z0-9_-]{1,40})$")
    fields: dict[str, Any] = Field(min_length=1)


class Keep(Record):
    """Leave a finding to look at as it is, and say why; without words it is to be
    looked at again.
    """

    do: Literal["keep"] = "keep"
    on: str = Field(pattern=r"^(plan|(setup|station|operation):[A-Za-z0-9_-]{1,40})$")
    finding: FindingId
    words: str = Field("", max_length=200)


Edit = Annotated[
    SetPart
    | SetStock
    | AddSetup
    | RemoveSetup
    | MoveSetup
    | PutStation
    | RemoveStation
    | FlipStation
    | AddOperation
    | RemoveOperation
    | MoveOperation
    | DuplicateOperation
    | LoadTool
    | UnloadTool
    | Keep
    | Change,
    Field(discriminator="do"),
]
