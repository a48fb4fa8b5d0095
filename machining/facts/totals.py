"""What one part and the batch take, as figures."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from machining.motion import cycle
from machining.quantities.computed import Computed, Given, Value, work_out

from .bars import loads
from .batch import meanwhile_s, one_of_each
from .context import PlanFacts
from .ledger import Ledger
from .times import cycles, parts


@dataclass(slots=True)
class Totals:
    """Figures of a plan by their short names: load, find and by_hand where zeros are found on
    every part, one_part, build, prove_out, batch."""

    figures: dict[str, Computed] = field(default_factory=dict)

    def work_out(self, fn: Callable[..., float], name: str, /, **inputs: Value) -> float:
        figure = work_out(fn, f"plan.{name}", **inputs)
        self.figures[name] = figure
        return figure.value

    def of(self, name: str) -> float:
        figure = self.figures.get(name)
        return figure.value if figure is not None else 0.0


def totals(facts: PlanFacts, ledgers: Mapping[str, Ledger]) -> Totals:
    """``ledgers`` by setup."""
    found = Totals()
    shares = {s.id: sum(loads(each, facts) for each in s.stations) for s in facts.setups}
    found.work_out(
        cycle.times_each,
        "load",
        count=Given(sum(shares.values()), "stations a part is put in by hand; its share of a bar"),
        each=facts.shop("load_unload_s"),
    )
    hand = _and_zeros_found(found, facts)
    each_part = {s.id: ledgers[s.id].ends_s / parts(s.planned) for s in facts.setups}
    meanwhile = sum(meanwhile_s(s, ledgers[s.id], facts) for s in facts.setups)
    beside = Given(meanwhile, "loading another pallet")
    found.work_out(
        cycle.part_time,
        "one_part",
        cycles=Given(sum(each_part.values()), "cycles of its setups over the parts they turn out"),
        by_hand=hand,
        meanwhile=beside,
    )
    quantity = facts.plan.quantity
    running = sum(ledgers[s.id].ends_s * cycles(s.planned, quantity) for s in facts.setups)
    _before_the_first(found, facts, ledgers)
    found.work_out(
        cycle.batch_total,
        "batch",
        build=found.figures["build"],
        prove_out=found.figures["prove_out"],
        running=Given(running, "cycles of all setups"),
        by_hand=Given(hand.value * quantity, "loading every part"),
        meanwhile=Given(meanwhile * quantity, "loading another pallet"),
    )
    return found


def _and_zeros_found(found: Totals, facts: PlanFacts) -> Computed:
    """Figures find and by_hand, where a zero is found anew on every part."""
    anew = sum(each.planned.zero.each_part for each in facts.stations)
    if not anew:
        return found.figures["load"]
    found.work_out(
        cycle.times_each,
        "find",
        count=Given(float(anew), "stations whose zero is found on every part"),
        each=facts.shop("zero_s"),
    )
    figures = found.figures
    found.work_out(cycle.by_hand_time, "by_hand", load=figures["load"], find=figures["find"])
    return figures["by_hand"]


def _before_the_first(found: Totals, facts: PlanFacts, ledgers: Mapping[str, Ledger]) -> None:
    """Figures build and prove_out, of setups that have work planned."""
    worked = [s for s in facts.setups if s.operations]
    tools = sum(len({op.loaded.id for op in s.operations if op.loaded}) for s in worked)
    settings = facts.library.settings
    found.work_out(
        cycle.build_time,
        "build",
        setup=Given(len(worked) * settings.setup_s, "shop.setup_s, for every setup"),
        tools=Given(float(tools), "tools of its setups"),
        each=facts.shop("tool_s"),
    )
    found.work_out(
        cycle.prove_out_time,
        "prove_out",
        cycle=Given(
            sum(one_of_each(s, ledgers[s.id]) for s in worked),
            "cycles of its setups, one position of each station",
        ),
        factor=facts.shop("prove_out_factor"),
    )
