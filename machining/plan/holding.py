"""How a part is held: in a vise, a chuck or a collet, clamped or pulled down on what it lies on."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Discriminator, Field, Tag

from machining.world.asked import Asked
from machining.world.record import (
    Force,
    Key,
    Length,
    LengthOrZero,
    Line,
    Speed,
)

from .clamped import Clamped
from .in_vise import Holding, HoldingBase
from .pulled import Pulled

# what carries a turned part further out: a centre in its free end, pressed in with so much wherever
# nothing is cut there, and a steady so far out of what grips it, to the middle of its rollers
Tailstock = Annotated[Force | None, Asked("Tailstock", "force", empty="none")]
Steady = Annotated[Length | None, Asked("Steady at", empty="none")]
CLOSE = (("outside", "from outside"), ("inside", "into a bore"))


class InChuck(HoldingBase):
    """Jaws of a chuck, closed from outside or opened into a bore. ``grip_mm`` is how much of the
    stock lies between them.

    ``force_per_jaw_n`` is at rest; ``limit_rpm`` the speed nobody may go over, ``jaw_angle_deg``
    where the first jaw stands, None while nobody has said.

    Soft jaws are bored (to grip a bore: turned) in their place to ``bored_mm``, as deep as the
    grip, and the part sits on the step behind that. While that is done they are closed on a
    spacer, ``spacer_mm`` in diameter, with ``left_mm`` of their travel left.
    """

    kind: Literal["chuck"] = "chuck"
    chuck: Key
    grips: Annotated[Literal["outside", "inside"], Asked("Jaws close", choices=CLOSE)] = "outside"
    grip_mm: Annotated[Length, Asked("Grip")]
    force_per_jaw_n: Annotated[Force, Asked("Each jaw", "force")]
    bored_mm: Annotated[Length | None, Asked("Bored to Ø", empty="not set")] = None
    spacer_mm: Annotated[Length | None, Asked("On a spacer Ø", empty="none")] = None
    left_mm: Annotated[LengthOrZero | None, Asked("Travel left", empty="not set")] = None
    limit_rpm: Annotated[
        Speed | None, Asked("Never over", "spindle_speed", empty="the chuck’s")
    ] = None
    jaw_angle_deg: Annotated[
        Annotated[float, Field(ge=-360, le=360)] | None,
        Asked("Jaw 1 at", "angle", empty="not set"),
    ] = None
    tailstock_n: Tailstock = None
    steady_mm: Steady = None
    reason: Line = ""

    @property
    def item(self) -> str:
        """Key of the library's record."""
        return self.chuck


class InCollet(HoldingBase):
    """A collet, closed on the stock. ``grip_mm`` is how much of it lies in the collet,
    ``limit_rpm`` the speed nobody may go over.
    """

    kind: Literal["collet"] = "collet"
    collet: Key
    grip_mm: Annotated[Length, Asked("Grip")]
    limit_rpm: Annotated[
        Speed | None, Asked("Never over", "spindle_speed", empty="the collet’s")
    ] = None
    tailstock_n: Tailstock = None
    steady_mm: Steady = None
    reason: Line = ""

    @property
    def item(self) -> str:
        """Key of the library's record."""
        return self.collet


class BetweenCentres(HoldingBase):
    """Between a face driver's centre and that of the tailstock, which presses it on with
    ``tailstock_n``; ``limit_rpm`` is the speed nobody may go over.
    """

    kind: Literal["centres"] = "centres"
    driver: Key
    tailstock_n: Annotated[Force, Asked("Tailstock", "force")]
    limit_rpm: Annotated[
        Speed | None, Asked("Never over", "spindle_speed", empty="the driver’s")
    ] = None
    steady_mm: Steady = None
    reason: Line = ""

    @property
    def item(self) -> str:
        """Key of the library's record."""
        return self.driver


Rested = InChuck | InCollet | BetweenCentres  # what can have a tailstock and a steady


class OnMandrel(HoldingBase):
    """An expanding mandrel in a bore of the part. ``grip_mm`` is how far it goes in, ``limit_rpm``
    the speed nobody may go over.
    """

    kind: Literal["mandrel"] = "mandrel"
    mandrel: Key
    grip_mm: Annotated[Length, Asked("Goes in")]
    limit_rpm: Annotated[
        Speed | None, Asked("Never over", "spindle_speed", empty="the mandrel’s")
    ] = None
    reason: Line = ""

    @property
    def item(self) -> str:
        """Key of the library's record."""
        return self.mandrel


def _kind_of_holding(value: Any) -> str:
    """Plans from before there were chucks say nothing, and mean a vise."""
    return str(
        value.get("kind", "vise") if isinstance(value, dict) else getattr(value, "kind", "vise")
    )


HELD = (
    Holding,
    InChuck,
    InCollet,
    OnMandrel,
    BetweenCentres,
    Clamped,
    Pulled,
)  # every way of holding a plan can say
HOLDINGS = tuple(str(each.model_fields["kind"].default) for each in HELD)
Held = Annotated[
    Annotated[Holding, Tag("vise")]
    | Annotated[InChuck, Tag("chuck")]
    | Annotated[InCollet, Tag("collet")]
    | Annotated[OnMandrel, Tag("mandrel")]
    | Annotated[BetweenCentres, Tag("centres")]
    | Annotated[Clamped, Tag("clamped")]
    | Annotated[Pulled, Tag("pulled")],
    Discriminator(_kind_of_holding, "holding_kind", f"kind must be {' or '.join(HOLDINGS)}"),
]
