"""What each setup takes of a batch: of its machine, and of who stands before it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from machining.world.machine import Table

from .bars import loads
from .context import PlanFacts, SetupFacts
from .ledger import BY_HAND, Ledger
from .times import cycles, parts


@dataclass(frozen=True, slots=True)
class Share:
    """Seconds of a batch: the setup is built, its first cycle takes longer, cycles run, parts are
    put in (``by_hand``), some of them ``meanwhile`` on another pallet. ``attended`` is what of the
    cycles somebody stands by.
    """

    build: float
    prove_out: float
    running: float
    by_hand: float
    meanwhile: float
    attended: float

    @property
    def machine(self) -> float:
        """What the machine is taken up."""
        return self.build + self.prove_out + self.running + self.by_hand - self.meanwhile

    @property
    def person(self) -> float:
        """What somebody is at it, the first cycle watched from its start to its end."""
        return self.build + self.prove_out + self.attended + self.by_hand


def shares(facts: PlanFacts, ledgers: Mapping[str, Ledger]) -> dict[str, Share]:
    """By setup; they add up to the batch."""
    return {each.id: _share(each, ledgers[each.id], facts) for each in facts.setups}


def _share(setup: SetupFacts, ledger: Ledger, facts: PlanFacts) -> Share:
    settings, quantity = facts.library.settings, facts.plan.quantity
    worked = bool(setup.operations)
    tools = len({op.loaded.id for op in setup.operations if op.loaded})
    put_in = load_s(setup, facts)
    anew = sum(each.planned.zero.each_part for each in setup.stations) * settings.zero_s
    runs = cycles(setup.planned, quantity)
    return Share(
        build=settings.setup_s + tools * settings.tool_s if worked else 0.0,
        prove_out=one_of_each(setup, ledger) * (settings.prove_out_factor - 1.0) if worked else 0.0,
        running=ledger.ends_s * runs,
        by_hand=(put_in + anew) * quantity,
        meanwhile=meanwhile_s(setup, ledger, facts) * quantity,
        attended=ledger.of(*BY_HAND) * runs,
    )


def load_s(setup: SetupFacts, facts: PlanFacts) -> float:
    """Of one part, put in by hand."""
    each = facts.library.settings.load_unload_s
    return sum(loads(station, facts) for station in setup.stations) * each


def meanwhile_s(setup: SetupFacts, ledger: Ledger, facts: PlanFacts) -> float:
    """Of that, what is done on another pallet while the machine cuts."""
    if not _has_pallets(setup):
        return 0.0
    return min(ledger.ends_s / parts(setup.planned), load_s(setup, facts))


def one_of_each(setup: SetupFacts, ledger: Ledger) -> float:
    """Its cycle with one part at each station: what is proven there, the other positions repeat."""
    planned = setup.planned.stations
    return ledger.ends_s * len(planned) / sum(each.positions for each in planned)


def _has_pallets(setup: SetupFacts) -> bool:
    """Is the next load put on another pallet while the machine cuts?"""
    machine = setup.machine
    return machine is not None and any(
        isinstance(each, Table) and each.pallets > 1 for each in machine.places
    )
