"""What one part and the batch take, as figures."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from math import sqrt

from machining.motion import by_hand, cycle, spread
from machining.quantities.computed import Computed, Given, Value, work_out

from . import ledger, put_in
from .batch import Share, one_of_each, shares
from .context import PlanFacts
from .ledger import Ledger
from .probing import found_by_hand
from .times import parts


@dataclass(slots=True)
class Totals:
    """Figures of a plan by their short names."""

    figures: dict[str, Computed] = field(default_factory=dict)

    def work_out(self, fn: Callable[..., float], name: str, /, **inputs: Value) -> float:
        figure = work_out(fn, f"plan.{name}", **inputs)
        self.figures[name] = figure
        return figure.value

    def of(self, name: str) -> float:
        figure = self.figures.get(name)
        return figure.value if figure is not None else 0.0


def in_all(facts: PlanFacts) -> Totals:
    """Of facts alone, before anything is noticed of them."""
    ledgers = ledger.of_plan(facts)
    return totals(facts, shares(facts, ledgers), ledgers)


def totals(facts: PlanFacts, taken: Mapping[str, Share], ledgers: Mapping[str, Ledger]) -> Totals:
    """``taken`` and ``ledgers`` by setup."""
    found, every, quantity = Totals(), list(taken.values()), facts.plan.quantity
    load = sum(put_in.of_setup(each, facts) for each in facts.setups)
    found.work_out(by_hand.put_in_all, "load", stations=Given(load, "put_in of its stations"))
    hand = _and_zeros_found(found, facts)
    each_part = {s.id: ledgers[s.id].ends_s / parts(s.planned) for s in facts.setups}
    meanwhile = sum(each.meanwhile for each in every)
    found.work_out(
        cycle.part_time,
        "one_part",
        cycles=Given(sum(each_part.values()), "cycles of its setups over the parts they turn out"),
        by_hand=hand,
        meanwhile=Given(meanwhile / quantity, "loading another pallet"),
    )
    _before_the_first(found, facts, every, ledgers)
    _while_it_runs(found, facts, every)
    figures = found.figures
    found.work_out(
        cycle.batch_total,
        "batch",
        build=figures["build"],
        prove_out=figures["prove_out"],
        first_part=figures.get("first_part", Given(0.0, "no size has a tolerance")),
        running=Given(sum(each.cycles_s for each in every), "cycles of all setups"),
        edges=figures.get("edges", Given(0.0, "no edge is known to wear out")),
        by_hand=Given(hand.value * quantity, "loading every part"),
        meanwhile=Given(meanwhile, "loading another pallet"),
    )
    _how_far_off(found, facts, every, each_part)
    return found


def _and_zeros_found(found: Totals, facts: PlanFacts) -> Computed:
    """Figures find and by_hand, where a zero is found anew on every part."""
    anew = sum(found_by_hand(each) for each in facts.setups)
    if not anew:
        return found.figures["load"]
    found.work_out(
        cycle.times_each,
        "find",
        count=Given(float(anew), "stations whose zero somebody finds on every part"),
        each=facts.shop("zero_s"),
    )
    figures = found.figures
    found.work_out(cycle.by_hand_time, "by_hand", load=figures["load"], find=figures["find"])
    return figures["by_hand"]


def _before_the_first(
    found: Totals, facts: PlanFacts, every: list[Share], ledgers: Mapping[str, Ledger]
) -> None:
    """Figures papers, zeros, tools, build and prove_out, of setups that have work planned."""
    worked = [s for s in facts.setups if s.operations]
    counted = {
        "papers": (len(worked), "setups", "setup_s"),
        "zeros": (sum(each.built.zeros for each in every), "zeros found once", "zero_s"),
        "tools": (sum(each.built.tools for each in every), "tools not there yet", "tool_s"),
    }
    for name, (many, of, setting) in counted.items():
        count = Given(float(many), of)
        found.work_out(cycle.times_each, name, count=count, each=facts.shop(setting))
    holding = sum(each.built.holding_s for each in every)
    found.work_out(
        by_hand.build_time,
        "build",
        papers=found.figures["papers"],
        holding=Given(holding, "what holds the part, unless it stands there already"),
        zeros=found.figures["zeros"],
        tools=found.figures["tools"],
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


def _while_it_runs(found: Totals, facts: PlanFacts, every: list[Share]) -> None:
    """Figures first_part, gauging, edges and skipped, each where there is any."""
    counted = {
        "first_part": (sum(e.gauged.sizes for e in every), "sizes with a tolerance", "gauge_s"),
        "gauging": (sum(e.gauged.later for e in every), "sizes after the first part", "gauge_s"),
        "edges": (sum(e.worn.edges for e in every), "edges worn out", "edge_s"),
    }
    for name, (many, of, setting) in counted.items():
        if many:
            count = Given(float(many), of)
            found.work_out(cycle.times_each, name, count=count, each=facts.shop(setting))
    skipped = sum(each.skipped for each in every)
    if skipped > 0.0:
        least = Given(skipped, "places of the last load that are empty")
        found.work_out(cycle.times_each, "skipped", count=Given(1.0, "last load"), each=least)


def _how_far_off(
    found: Totals, facts: PlanFacts, every: list[Share], each_part: Mapping[str, float]
) -> None:
    """Figures one_part_under, one_part_over, batch_under and batch_over."""
    hand = (found.figures.get("by_hand") or found.figures["load"]).value
    meanwhile = sum(each.meanwhile for each in every)
    quantity, name = facts.plan.quantity, "one_part"
    cycles = [each_part[setup.id] for setup in facts.setups]
    by_hand_s, before = hand - meanwhile / quantity, 0.0
    for _ in range(2):
        machine = _of_machines(facts, cycles)
        if machine[0].value + by_hand_s + before > 0.0:
            parts = {
                "machine": machine[0],
                "machine_off": machine[1],
                "hand": Given(max(by_hand_s, 0.0), "by hand"),
                "hand_off": facts.shop("spread_hand"),
                "before": Given(before, "built and proven"),
                "before_off": facts.shop("spread_before"),
            }
            found.work_out(spread.under, f"{name}_under", **parts)
            found.work_out(spread.over, f"{name}_over", **parts)
        name, cycles = "batch", [each.cycles_s for each in every]
        before = sum(each.build + each.prove_out for each in every)
        seen_to = sum(each.first + each.edges for each in every)
        by_hand_s = hand * quantity - meanwhile + seen_to


def _of_machines(facts: PlanFacts, seconds: list[float]) -> tuple[Given, Given]:
    """Their seconds, and how far off they may be in all: one machine is off the same way in all its
    setups, two are so independently.
    """
    settings, by = facts.library.settings, defaultdict[str, float](float)
    for setup, each in zip(facts.setups, seconds, strict=True):
        by[setup.planned.machine] += each
    known = facts.library.machines
    timed = {key for key in by if key in known and known[key].timed}
    total = sum(by.values())
    off = sqrt(
        sum(
            (each * (settings.spread_timed if key in timed else settings.spread_machine)) ** 2
            for key, each in by.items()
        )
    )
    origin = (
        f"shop.spread_timed for {len(timed)} of {len(by)} machines"
        if timed
        else "shop.spread_machine: nobody timed one"
    )
    return Given(total, "cycles"), Given(off / total if total else 0.0, origin)
