"""What a part is cut from. Every form is a file of its own; registered here."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from .base import Blank as Blank
from .block import Block as Block
from .hexagon import Hexagon
from .plate import Plate
from .round import Round as Round
from .shaped import Shaped
from .square import Square
from .tube import Tube

FORMS: dict[str, type[Blank]] = {
    str(each.model_fields["form"].default): each
    for each in (Block, Plate, Round, Tube, Hexagon, Square, Shaped)
}
Stock = Annotated[
    Block | Plate | Round | Tube | Hexagon | Square | Shaped, Field(discriminator="form")
]
