"""Clamps that press harder: more of them, or stronger ones."""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import PlanFacts, Ready
from machining.facts.holdings.clamped import clamps_of
from machining.facts.holdings.clamped_usual import like_it
from machining.plan.clamped import Clamp, Clamped
from machining.plan.edit import Change
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown
from machining.world.clamping import AnyClamp

ASIDE = (0.25, 0.4)  # of the length of a side, from a clamp to each of two in its stead
MOST_STRONGER = 2


def more_clamps(op: Ready, facts: PlanFacts) -> Iterator[Proposal]:
    """Two for each, where none is put on in the cycle; then stronger ones of the same kind."""
    held = op.station.planned.holding
    if not isinstance(held, Clamped) or not held.clamps or (held.vise and _in_its_vise(op)):
        return
    for share in () if op.station.stand.during else ASIDE:
        yield _with(op, _doubled(op, held, share), "Two clamps for each", {})
    known = {clamp.id: item for _, clamp, item, _ in clamps_of(op.station)}
    weakest = min(known.values(), key=_most)
    stronger = sorted(
        (
            each
            for each in facts.library.clamps.values()
            if each.kind == weakest.kind and _most(each) > _most(weakest)
        ),
        key=_most,
    )
    for item in stronger[:MOST_STRONGER]:
        clamps = [like_it(each, item) for each in held.clamps]
        yield _with(op, clamps, "Clamp it with the {clamp}", {"clamp": Shown(item.name)})


def _in_its_vise(op: Ready) -> bool:
    """Does what it is clamped to give way, not the part?"""
    return op.seen.held is not None and bool(op.seen.held.weakest.of)


def _most(item: AnyClamp) -> float:
    """What orders clamps of a kind by their force."""
    if item.kind == "side":
        return item.force_per_torque * item.max_torque_nm
    return item.max_torque_nm / (item.nut_factor * item.thread_mm)


def _doubled(op: Ready, held: Clamped, share: float) -> list[Clamp]:
    lie, found = op.station.lie, list[Clamp]()
    taken = {*(each.id for each in held.clamps), *(each.id for each in held.dowels)}
    free = iter(id for k in range(1, 99) if (id := f"c{k}") not in taken)
    for each in held.clamps:
        along = 1 if each.side[1] == "x" else 0
        by = round(share * float(lie.stock_high[along] - lie.stock_low[along]), 1)
        found.append(each.model_copy(update={"at_mm": each.at_mm - by}))
        found.append(each.model_copy(update={"id": next(free), "at_mm": each.at_mm + by}))
    return found


def _with(op: Ready, clamps: list[Clamp], label: str, values: dict[str, Shown]) -> Proposal:
    said = [each.model_dump(mode="json") for each in clamps]
    return Proposal(label, (Change(on=op.station.on, fields={"holding.clamps": said}),), values)
