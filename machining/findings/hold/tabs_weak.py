"""hold.tabs-weak: tabs that give before the cut is done, or nobody knows what they carry."""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil

from machining.facts import requirement
from machining.facts.context import PlanFacts, Ready
from machining.facts.tabs import cut_out_before
from machining.plan.edit import Change
from machining.plan.operation import CutOut
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown, length

from ..finding import Finding, keep, of_operation

ID = "hold.tabs-weak"
MOST_TABS, MOST_SHARE = 24, 0.5  # of the outline's length
TRIED = "tabs like these have carried it"


def tabs_weak(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    by = cut_out_before(op)
    if by is None or "worn_force" not in op.figures:
        return
    stands, asked = op.figures.get("tabs_stand"), requirement.asked(op, facts)
    number = Shown(float(getattr(by.operation, "tabs", 0)), "count")
    if stands is None:
        material = facts.material.name if facts.material is not None else "its material"
        yield of_operation(
            op,
            ID,
            "look",
            "What its {count} tabs carry is not known: the library has no proof stress of"
            " {material}.",
            {"count": number, "material": Shown(material)},
            "",
            (keep(op, ID, TRIED),),
        )
    elif stands.value < asked:
        yield of_operation(
            op,
            ID,
            "stop",
            "Its {count} tabs stand {factor} what a worn edge pulls at them; {asked} is asked for.",
            {
                "count": number,
                "factor": Shown(stands.value, "factor"),
                "asked": Shown(asked, "factor"),
            },
            "tabs_stand",
            tuple(_fixes(by, asked / stands.value)),
        )


def _fixes(by: Ready, more: float) -> Iterator[Proposal]:
    kind = by.operation
    assert isinstance(kind, CutOut)
    high = ceil(10.0 * kind.tab_high_mm * more) / 10.0
    if kind.tab_high_mm < high <= by.work.wall_height / 2.0:
        change = Change(on=by.on, fields={"tab_high_mm": high})
        yield Proposal("Tabs {high} high", (change,), {"high": length(high)})
    count = ceil(kind.tabs * more)
    if kind.tabs < count <= _most(by, kind.tab_mm):
        change = Change(on=by.on, fields={"tabs": count})
        yield Proposal("Leave {count} tabs", (change,), {"count": Shown(float(count), "count")})
    wide = float(ceil(kind.tab_mm * more))
    if wide > kind.tab_mm and kind.tabs <= _most(by, wide):
        change = Change(on=by.on, fields={"tab_mm": wide})
        yield Proposal("Tabs {wide} wide", (change,), {"wide": length(wide)})


def _most(by: Ready, wide: float) -> int:
    """As many as stand apart on its shortest line."""
    least = min(
        sum(
            ((b[0] - a[0]) ** 2 + (b[1] - a[1]) ** 2) ** 0.5
            for a, b in zip(line, line[1:], strict=False)
        )
        for line in by.work.lines
    )
    return min(MOST_TABS, int(MOST_SHARE * least / (wide + by.work.across)))
