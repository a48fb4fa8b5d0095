"""All that clamps a part down, as the library has it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from .clamping import AnyClamp, Base
from .fixture import Fixture
from .workholding import AnyHolding, Vise


@dataclass(frozen=True)
class Gear:
    """What a part lies on, the clamps by their keys, and the vise that holds what it lies on."""

    base: Base | Fixture
    clamps: Mapping[str, AnyClamp]
    vise: Vise | None = None

    @property
    def key(self) -> str:
        return self.base.key

    @property
    def name(self) -> str:
        return self.base.name if self.vise is None else f"{self.base.name} in {self.vise.name}"

    @property
    def close_s(self) -> float | None:
        return self.base.close_s


HeldBy = AnyHolding | Gear
