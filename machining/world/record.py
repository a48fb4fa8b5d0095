"""The base of everything that is stored: frozen, nothing unknown, no NaN."""

from __future__ import annotations

from typing import Annotated

from pydantic import BaseModel, ConfigDict, Field


class Record(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


Positive = Annotated[float, Field(gt=0)]
NotNegative = Annotated[float, Field(ge=0)]
Share = Annotated[float, Field(gt=0, le=1)]
Key = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9-]{0,59}$")]
Id = Annotated[str, Field(pattern=r"^[A-Za-z0-9_-]{1,40}$")]
Point = tuple[float, float, float]
