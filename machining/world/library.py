"""A snapshot of what a plan can refer to: materials, tools, machines, workholding, clamps,
settings and solids.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from functools import cached_property
from hashlib import blake2b

from machining.quantities.errors import Missing

from .clamping import AnyClamp
from .geometry import PartGeometry
from .machine import Machine
from .material import Material
from .settings import Settings
from .standing import StandingTool
from .tool import Assembly, Holder, Tool
from .workholding import AnyHolding, Chuck, Vise


@dataclass(frozen=True)
class Library:
    """``today`` is the day it is read on, by which what was measured once grows old; None where
    that does not count.
    """

    materials: Mapping[str, Material] = field(default_factory=dict)
    tools: Mapping[str, Tool] = field(default_factory=dict)
    holders: Mapping[str, Holder] = field(default_factory=dict)
    assemblies: Mapping[str, Assembly] = field(default_factory=dict)
    machines: Mapping[str, Machine] = field(default_factory=dict)
    holdings: Mapping[str, AnyHolding] = field(default_factory=dict)
    clamps: Mapping[str, AnyClamp] = field(default_factory=dict)
    geometries: Mapping[str, PartGeometry] = field(default_factory=dict)
    settings: Settings = Settings()
    today: date | None = None

    @cached_property
    def key(self) -> str:
        """Equal for libraries of equal content (solids by their own key)."""
        kinds = (
            self.materials,
            self.tools,
            self.holders,
            self.assemblies,
            self.machines,
            self.holdings,
            self.clamps,
        )
        day = self.today.isoformat() if self.today is not None and self._grows_old else ""
        records = [record.model_dump_json() for kind in kinds for _, record in sorted(kind.items())]
        return blake2b(
            "\n".join(
                [*records, *sorted(self.geometries), self.settings.model_dump_json(), day]
            ).encode(),
            digest_size=16,
        ).hexdigest()

    @property
    def _grows_old(self) -> bool:
        places = (place for machine in self.machines.values() for place in machine.places)
        return any(axis.centre_on is not None for place in places for axis in place.rotaries)

    @cached_property
    def vises(self) -> Mapping[str, Vise]:
        return {key: each for key, each in self.holdings.items() if isinstance(each, Vise)}

    @cached_property
    def chucks(self) -> Mapping[str, Chuck]:
        return {key: each for key, each in self.holdings.items() if isinstance(each, Chuck)}

    def standing(self, machine: str) -> tuple[StandingTool, ...]:
        """Tools that stay in a machine; none in one that is not known."""
        known = self.machines.get(machine)
        return known.standing if known is not None else ()

    def get(self, kind: str, key: str) -> object:
        """Item of a kind (``machines``, ``tools`` ...). Raises Missing with the key."""
        try:
            return getattr(self, kind)[key]
        except KeyError:
            raise Missing(kind[:-1].capitalize(), key) from None
