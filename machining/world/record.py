"""The base of everything that is stored: frozen, nothing unknown, no NaN."""

from __future__ import annotations

import unicodedata
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, ConfigDict, Field


class Record(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


def _one_line(text: str) -> str:
    """Text as people write it: no control characters, which no sheet prints and no file
    name takes.
    """
    strange = [sign for sign in text if unicodedata.category(sign) in ("Cc", "Cs", "Zl", "Zp")]
    if strange:
        raise ValueError(
            f"text holds the sign {strange[0]!r}; it must be of letters, digits and signs on one"
            " line"
        )
    return text


# the lowest and highest value that makes sense anywhere in a shop; what is asked beyond them is a
# slip, and could keep a computer busy for hours
Length = Annotated[float, Field(ge=0.001, le=10_000)]
LengthOrZero = Annotated[float, Field(ge=0, le=10_000)]
Coordinate = Annotated[float, Field(ge=-10_000, le=10_000)]
Step = Annotated[float, Field(ge=0.01, le=1_000)]
Cusp = Annotated[float, Field(ge=0.0005, le=5)]
Speed = Annotated[float, Field(ge=1, le=200_000)]
SpeedOrZero = Annotated[float, Field(ge=0, le=200_000)]
Feed = Annotated[float, Field(ge=0.1, le=200_000)]
FeedPerTurn = Annotated[float, Field(ge=0.0005, le=50)]
CuttingSpeed = Annotated[float, Field(ge=0.1, le=10_000)]
Acceleration = Annotated[float, Field(ge=1, le=1_000_000)]
Torque = Annotated[float, Field(ge=0.01, le=100_000)]
TorqueOrZero = Annotated[float, Field(ge=0, le=100_000)]
Force = Annotated[float, Field(ge=1, le=10_000_000)]
Power = Annotated[float, Field(ge=0, le=1_000)]
Mass = Annotated[float, Field(ge=0.001, le=1_000_000)]
Compliance = Annotated[float, Field(ge=0, le=100)]
Factor = Annotated[float, Field(ge=0.01, le=1_000)]
Seconds = Annotated[float, Field(ge=0.001, le=86_400)]
SecondsOrZero = Annotated[float, Field(ge=0, le=86_400)]
ByTheWatch = Annotated[
    SecondsOrZero | None,
    Field(description="closing and opening it on a part, timed; empty: the shop's for its kind"),
]
Minutes = Annotated[float, Field(ge=0.01, le=100_000)]
Money = Annotated[float, Field(ge=0, le=10_000_000)]
Text = Annotated[str, AfterValidator(_one_line), Field(max_length=500)]
Line = Annotated[str, AfterValidator(_one_line), Field(max_length=200)]
Name = Annotated[str, AfterValidator(_one_line), Field(max_length=80)]
Coolant = Literal["flood", "mist", "air", "through", "none"]
_CODE, _KEY, _ID = (
    r"^[A-Z]{1,4}[0-9]{1,4}(\.[0-9]{1,3})?( ?[A-Z][0-9]{1,4})?$",
    r"^[a-z0-9][a-z0-9-]{0,59}$",
    r"^[A-Za-z0-9_-]{1,40}$",
)
_NONE_OR_ID, _NONE_OR_KEY = r"^[A-Za-z0-9_-]{0,40}$", r"^([a-z0-9][a-z0-9.-]{0,79})?$"
# what a pattern asks, in words
WRITTEN_LIKE: dict[str, str] = {
    _CODE: "a code such as G54 or G54.1 P12",
    _KEY: "small letters, digits and -, up to 60",
    _ID: "letters, digits, - and _, up to 40",
    _NONE_OR_ID: "letters, digits, - and _, up to 40",
    _NONE_OR_KEY: "small letters, digits, . and -, up to 80",
}
WorkOffset = Annotated[str, Field(pattern=_CODE)]
Share = Annotated[float, Field(gt=0, le=1)]
Spread = Annotated[float, Field(ge=0, le=1)]  # a standard deviation, of the value
Key = Annotated[str, Field(pattern=_KEY)]
Id = Annotated[str, Field(pattern=_ID)]
NoneOrId = Annotated[str, Field(pattern=_NONE_OR_ID)]
NoneOrKey = Annotated[str, Field(pattern=_NONE_OR_KEY)]
Point = tuple[Coordinate, Coordinate, Coordinate]
Place = tuple[Coordinate, Coordinate]
