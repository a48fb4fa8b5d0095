"""hold.slips: what holds the part against the largest force of a worn edge, where it is weakest."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts import requirement
from machining.facts.context import PlanFacts, Ready
from machining.facts.held import towards_said, untouched
from machining.facts.holdings import kind_of
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length
from machining.ways.more_clamps import more_clamps

from ..finding import Finding, of_operation
from .firmer import deeper, stopped


def slips(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    factor, held, item = op.figures.get("holding"), op.station.planned.holding, op.station.item
    asked = requirement.asked(op, facts)
    if factor is None or held is None or item is None or factor.value >= asked:
        return
    if "jaw_at_speed" in op.figures or untouched(op):
        return  # speed takes a share of it, or nothing grips: rules of their own
    kind = kind_of(held)
    fixes = list(kind.tighten(op, held, item, asked))
    fixes += [*deeper(op), *stopped(op), *more_clamps(op, facts)]
    step = getattr(op.operation, "step_down_mm", None)
    if step is not None:
        lower = max(0.1, int(10 * step * factor.value / asked) / 10)
        fixes.append(
            Proposal(
                "Step down {step}",
                (Change(on=f"operation:{op.operation.id}", fields={"step_down_mm": lower}),),
                {"step": length(lower)},
            )
        )
    where, values = _where(op)
    of = op.seen.held.weakest.of if op.seen.held is not None else ""
    stands = "{of} stands in its vise" if of else kind.stands
    values |= {"of": Shown(of)} if of else {}
    yield of_operation(
        op,
        "hold.slips",
        "stop",
        f"{stands} {{factor}} the cutting force of a worn edge{where}; {{asked}} is asked for.",
        {"factor": Shown(factor.value, "factor"), "asked": Shown(asked, "factor"), **values},
        "holding",
        tuple(fixes),
    )


def _where(op: Ready) -> tuple[str, dict[str, Shown]]:
    """In which direction it is stood least, and with the tool where."""
    found = op.seen.held.weakest if op.seen.held is not None else None
    if found is None or found.towards is None or found.at is None:
        return "", {}
    at = {letter: length(float(mm)) for letter, mm in zip("xyz", found.at, strict=True)}
    values = {"towards": Shown(towards_said(found.towards)), **at}
    return " towards {towards} with the tool at X {x}, Y {y}, Z {z}", values
