"""What each setup takes of a batch: of its machine, and of who stands before it."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from machining.world.machine import Table

from . import ledger as ledgers_of
from . import put_in
from .context import PlanFacts, SetupFacts
from .gauging import Gauged, gauging
from .ledger import BY_HAND, Ledger
from .probing import found_by_hand
from .set_up import Built, built
from .times import cycles, in_last_load, parts
from .worn import Worn, worn


@dataclass(frozen=True, slots=True)
class Share:
    """Seconds of a batch: the setup is ``built``, its first cycle takes longer, ``first`` is its
    first part measured while the machine waits, cycles run, ``skipped`` is what the last load that
    is not full takes less of them, ``edges`` are changed, parts are put in (``by_hand``), some of
    them ``meanwhile`` on another pallet. ``attended`` is what of the cycles somebody stands by,
    ``gauging`` what is measured beside the running machine.
    """

    built: Built
    prove_out: float
    first: float
    running: float
    skipped: float
    edges: float
    by_hand: float
    meanwhile: float
    attended: float
    gauging: float
    gauged: Gauged
    worn: Worn

    @property
    def build(self) -> float:
        return self.built.seconds

    @property
    def cycles_s(self) -> float:
        """What its cycles take in all."""
        return self.running - self.skipped

    @property
    def machine(self) -> float:
        """What the machine is taken up."""
        before = self.build + self.prove_out + self.first
        return before + self.cycles_s + self.edges + self.by_hand - self.meanwhile

    @property
    def person(self) -> float:
        """What somebody is at it, the first cycle watched from its start to its end."""
        before = self.build + self.prove_out + self.first
        return before + self.attended + self.edges + self.by_hand + self.gauging


def shares(facts: PlanFacts, ledgers: Mapping[str, Ledger]) -> dict[str, Share]:
    """By setup; they add up to the batch."""
    set_up, sizes = built(facts), gauging(facts)
    return {
        each.id: _share(each, ledgers[each.id], facts, set_up[each.id], sizes[each.id])
        for each in facts.setups
    }


def _share(
    setup: SetupFacts, ledger: Ledger, facts: PlanFacts, set_up: Built, sizes: Gauged
) -> Share:
    settings, quantity = facts.library.settings, facts.plan.quantity
    worked = bool(setup.operations)
    anew = found_by_hand(setup) * settings.zero_s
    runs, edges = cycles(setup.planned, quantity), worn(setup, facts)
    return Share(
        built=set_up,
        prove_out=one_of_each(setup, ledger) * (settings.prove_out_factor - 1.0) if worked else 0.0,
        first=sizes.sizes * settings.gauge_s,
        running=ledger.ends_s * runs,
        skipped=skipped_s(setup, ledger, facts) if settings.last_load == "filled" else 0.0,
        edges=edges.edges * settings.edge_s,
        by_hand=(put_in.of_setup(setup, facts) + anew) * quantity,
        meanwhile=meanwhile_s(setup, ledger, facts) * quantity,
        attended=ledger.of(*BY_HAND) * runs,
        gauging=sizes.later * settings.gauge_s,
        gauged=sizes,
        worn=edges,
    )


def skipped_s(setup: SetupFacts, ledger: Ledger, facts: PlanFacts) -> float:
    """How much shorter the last load is where only the places that are filled are cut; 0 where it
    is full, or where a part goes from station to station in it.
    """
    filled = in_last_load(setup.planned, facts.plan.quantity)
    if filled is None:
        return 0.0
    return max(ledger.ends_s - ledgers_of.of_setup(setup, facts, filled).ends_s, 0.0)


def meanwhile_s(setup: SetupFacts, ledger: Ledger, facts: PlanFacts) -> float:
    """Of one part, what is done on another pallet while the machine cuts."""
    if not _has_pallets(setup):
        return 0.0
    return min(ledger.ends_s / parts(setup.planned), put_in.of_setup(setup, facts))


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
