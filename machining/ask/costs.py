"""What a batch costs as far as it is known, and what of that is not."""

from __future__ import annotations

from collections import defaultdict
from collections.abc import Iterator
from dataclasses import dataclass, field
from math import ceil
from typing import Any

from machining.evaluation import plain_said
from machining.facts import ledger
from machining.facts.bars import bar_volume, fed
from machining.facts.batch import Share, shares
from machining.facts.context import PlanFacts, Ready
from machining.facts.outside import WORDS
from machining.facts.worn import edges_of_a_part
from machining.motion import cost
from machining.quantities.said import Said, Shown, length
from machining.world.material import Material
from machining.world.price import price_at

MM3_IN_DM3 = 1e6
ROUNDING = 1e-9
REMNANTS = " out of remnants at {less} a kilogram"


@dataclass(frozen=True, slots=True)
class Part:
    """What of the cost, how much, and how that comes about; ``value`` is None where nobody has said
    what it is made of.
    """

    name: str
    value: float | None
    said: Said


@dataclass(slots=True)
class Costs:
    """Of a batch that takes so many seconds."""

    batch_s: float
    parts: list[Part] = field(default_factory=list)

    @property
    def known(self) -> float:
        return sum(each.value for each in self.parts if each.value is not None)

    @property
    def whole(self) -> bool:
        """Is nothing of it unknown?"""
        return all(each.value is not None for each in self.parts)

    def plain(self) -> list[dict[str, Any]]:
        return [{"name": e.name, "value": e.value, "said": plain_said(e.said)} for e in self.parts]


def costs_of(facts: PlanFacts) -> Costs:
    """Of all parts that were ordered."""
    ledgers = ledger.of_plan(facts)
    taken = shares(facts, ledgers)
    return Costs(
        sum(each.machine for each in taken.values()),
        [
            *_machines(facts, taken),
            _people(facts, taken),
            *_edges(facts),
            _stock(facts),
            *_elsewhere(facts),
        ],
    )


def _machines(facts: PlanFacts, taken: dict[str, Share]) -> Iterator[Part]:
    by = defaultdict[str, float](float)
    for setup in facts.setups:
        by[setup.planned.machine] += taken[setup.id].machine
    for key, seconds in by.items():
        machine = facts.library.machines.get(key)
        name = machine.name if machine is not None else key
        an_hour = machine.hourly_cost if machine is not None else 0.0
        values = _hourly(seconds, an_hour)
        if not an_hour:
            yield Part(name, None, Said("{hours} h; its record says no cost of an hour", values))
        else:
            value = cost.by_the_hour(seconds, an_hour)
            yield Part(name, value, Said("{hours} h at {an} an hour", values))


def _hourly(seconds: float, an_hour: float) -> dict[str, Shown]:
    return {"hours": Shown(f"{seconds / cost.HOUR_S:.1f}"), "an": Shown(f"{an_hour:g}")}


def _people(facts: PlanFacts, taken: dict[str, Share]) -> Part:
    an_hour = facts.library.settings.person_hour
    seconds = sum(each.person for each in taken.values())
    values = _hourly(seconds, an_hour)
    if not an_hour:
        return Part(
            "Who attends", None, Said("{hours} h; the shop says no cost of an hour", values)
        )
    said = Said("{hours} h at {an} an hour: all but cycles that run by themselves", values)
    return Part("Who attends", cost.by_the_hour(seconds, an_hour), said)


def _edges(facts: PlanFacts) -> Iterator[Part]:
    """Of all tools together; those nobody has said enough of are counted."""
    total, worn, lacks = 0.0, 0.0, set[str]()
    for op in facts.operations():
        if not isinstance(op, Ready) or op.time.cutting_s <= 0.0:
            continue
        share, price = edges_of_a_part(op), op.tool.edges_cost
        if share is None or price is None:
            lacks.add(op.loaded.id)
            continue
        total += share * facts.plan.quantity * price
        worn += share * facts.plan.quantity
    if worn:
        yield Part("Edges worn", total, Said("{worn} edges", {"worn": Shown(f"{worn:.1f}")}))
    if lacks:
        few = {"count": Shown(float(len(lacks)), "count")}
        yield Part("Edges", None, Said("{count} tools without a life or a cost", few))


def _stock(facts: PlanFacts) -> Part:
    material, quantity = facts.material, facts.plan.quantity
    price = material.price_kg if material is not None else None
    if material is None or price is None:
        return Part("Stock", None, Said("the material has no price"))
    each, text, values = _stock_each(facts, material)
    left = min(facts.plan.remnants, quantity)
    less = price * facts.library.settings.remnant_share
    price, least = price_at(price, material.price_breaks, each * (quantity - left))
    if left < quantity:
        text += " at {price} a kilogram" + (", from {least} on" if least else "")
    if left:
        text += ", {left} blanks out of remnants at {less}" if left < quantity else REMNANTS
    value = cost.of_stock(each, price, quantity - left) + cost.of_stock(each, less, left)
    values |= {"price": Shown(f"{price:g}"), "least": Shown(least, "mass")}
    values |= {"left": Shown(float(left), "count"), "less": Shown(f"{less:g}")}
    return Part("Stock", value, Said(text, values))


def _stock_each(facts: PlanFacts, material: Material) -> tuple[float, str, dict[str, Shown]]:
    """What of it (kg) a part takes with what the saw does, and how that is said. Of what is fed
    from bars each its share: its length, what parts it off, and of the end that is left of every
    bar; what is left of the last one stays in the shop.
    """
    quantity, density = facts.plan.quantity, material.density_kg_dm3 / MM3_IN_DM3
    for station in facts.stations:
        per = fed(station, facts)
        if per is not None:
            mass = bar_volume(station, facts) * density
            values = {"per": Shown(float(per), "count"), "bars": Shown(f"{quantity / per:.1f}")}
            text = "{bars} bars of {mass}, {per} from each,"
            return mass / per, text, values | {"mass": Shown(mass, "mass")}
    blank, kerf = facts.blank, facts.library.settings.saw_kerf_mm
    sawn = blank.stock.with_saw_cuts(blank.high - blank.low, kerf)
    mass = blank.volume_mm3 * sawn * density
    values = {"mass": Shown(mass, "mass"), "count": Shown(float(quantity), "count")}
    text = "{count} × {mass} with {kerf} for each saw cut," if sawn > 1.0 else "{count} × {mass}"
    return mass, text, values | {"kerf": length(kerf)}


def breaks_of(facts: PlanFacts) -> set[int]:
    """Quantities from which on something that is bought costs less."""
    found, material = set[int](), facts.material
    if material is not None and material.price_kg is not None:
        each = _stock_each(facts, material)[0]
        left = facts.plan.remnants
        found |= {
            ceil(e.from_so_many / each - ROUNDING) + left for e in material.price_breaks if each > 0
        }
    for step in facts.plan.outside:
        found |= {ceil(e.from_so_many) for e in step.piece_breaks if step.piece_cost is not None}
    return {max(each, 1) for each in found}


def _elsewhere(facts: PlanFacts) -> Iterator[Part]:
    for step in facts.plan.outside:
        name = f"Elsewhere: {WORDS[step.kind]}"
        if step.piece_cost is None and step.lot_cost is None:
            yield Part(name, None, Said("nobody has said what it costs"))
            continue
        lot, quantity = step.lot_cost or 0.0, facts.plan.quantity
        breaks = step.piece_breaks if step.piece_cost is not None else ()
        piece, least = price_at(step.piece_cost or 0.0, breaks, quantity)
        values = {
            "lot": Shown(f"{lot:g}"),
            "piece": Shown(f"{piece:g}"),
            "least": Shown(f"{least:g}"),
        }
        text = "{lot} a lot and {piece} a piece" + (", from {least} on" if least else "")
        yield Part(name, cost.elsewhere(lot, piece, quantity), Said(text, values))
