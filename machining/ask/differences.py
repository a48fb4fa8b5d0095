"""What one plan has otherwise than another of the same part, in words."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from typing import Any

from pydantic import BaseModel

from machining.ordering.moves import moves
from machining.plan.document import Plan, Setup, Station
from machining.plan.numbering import operation_numbers
from machining.plan.operation import Operation
from machining.quantities.said import Said, Shown, length
from machining.world.asked import Asked, asked_of
from machining.world.library import Library

SPEEDS = {
    "rpm": Asked("Speed", "spindle_speed"),
    "cutting_speed_m_min": Asked("Speed", "cutting_speed"),
    "feed_mm_min": Asked("Feed", "feed"),
    "feed_per_tooth_mm": Asked("Feed a tooth", "feed_per_tooth"),
    "feed_per_rev_mm": Asked("Feed a turn", "feed_per_rev"),
    "coolant": Asked("Coolant"),
}
# of an operation that are told otherwise, or are no difference in how it is cut
ASIDE = frozenset({"id", "kind", "tool", "station", "like", "kept", "reason", "proven_in"})
NOT_TOLD = "{what}: set otherwise ({fields})"


def differences(a: Plan, b: Plan, library: Library) -> list[Said]:
    """Of ``b`` against ``a``, setup by setup: what has the same id, or else the same place, is the
    same.
    """
    return [
        *_plans(a, b, library),
        *(said for pair in _pairs(a.setups, b.setups) for said in _setups(*pair, a, b, library)),
    ]


def _pairs(a: Sequence[Any], b: Sequence[Any]) -> list[tuple[Any, Any]]:
    """Each with what it is in the other, None where that has none."""
    left = {each.id: each for each in b}
    found = [(each, left.pop(each.id, None)) for each in a]
    rest = list(left.values())
    paired = [(one, other or (rest.pop(0) if rest else None)) for one, other in found]
    return [*paired, *((None, each) for each in rest)]


def _plans(a: Plan, b: Plan, library: Library) -> Iterator[Said]:
    if a.quantity != b.quantity:
        yield _instead("Parts", *(Shown(float(each.quantity), "count") for each in (b, a)))
    if a.material != b.material:
        yield _instead("Material", *(_name(library.materials, e.material) for e in (b, a)))
    if a.stock != b.stock:
        yield Said("Another blank")
    if a.remnants != b.remnants:
        yield _instead("Remnants", *(Shown(float(each.remnants), "count") for each in (b, a)))
    if a.outside != b.outside:
        yield Said("Other steps elsewhere")


def _setups(
    a: Setup | None, b: Setup | None, first: Plan, second: Plan, library: Library
) -> Iterator[Said]:
    if a is None or b is None:
        of, there = (first, a) if b is None else (second, b)
        assert there is not None
        number = Shown(f"{of.setups.index(there) + 1}")
        words = "Setup {number} is not there" if b is None else "Setup {number} on {machine} more"
        yield Said(words, {"number": number, "machine": _name(library.machines, there.machine)})
        return
    what = f"Setup {second.setups.index(b) + 1}"
    if a.machine != b.machine:
        yield _instead(f"{what}: machine", *(_name(library.machines, e.machine) for e in (b, a)))
    if a.order != b.order and any(each.positions > 1 for each in b.stations):
        yield _instead(f"{what}: order", Shown(b.order), Shown(a.order))
    if a.retract_mm != b.retract_mm:
        usual = library.settings.retract_mm
        now, was = (length(usual if e.retract_mm is None else e.retract_mm) for e in (b, a))
        yield _instead(f"{what}: over the work between cuts by", now, was)
    if a.said_order != b.said_order:
        yield Said(f"{what}: other reasons for its order are said")
    for one, other in _pairs(a.stations, b.stations):
        yield from _stations(what, one, other, library)
    yield from _operations(what, a, b, first, second, library)


def _stations(what: str, a: Station | None, b: Station | None, library: Library) -> Iterator[Said]:
    if a is None or b is None:
        yield Said(f"{what}: " + ("a station less" if b is None else "a station more"))
        return
    if a.orientation != b.orientation:
        yield Said(f"{what}: another side up")
    one, other = (getattr(each.holding, "item", "") for each in (a, b))
    if one != other or type(a.holding) is not type(b.holding):
        held = (
            _name(library.holdings, each) if each else Shown("nothing") for each in (other, one)
        )
        yield _instead(f"{what}: held in", *held)
    elif a.holding is not None and b.holding is not None:
        yield from _fields(f"{what}: held", a.holding, b.holding, asked_of(type(b.holding)))
    if a.positions != b.positions:
        yield _instead(f"{what}: at a time", *(Shown(float(e.positions), "count") for e in (b, a)))
    if a.work_offset != b.work_offset:
        yield _instead(f"{what}: offset", Shown(b.work_offset), Shown(a.work_offset))
    if a.zero != b.zero:
        yield Said(f"{what}: zero set otherwise")
    if a.load_s != b.load_s:
        timed = (
            Shown("not timed") if each.load_s is None else Shown(each.load_s, "time")
            for each in (b, a)
        )
        yield _instead(f"{what}: in and out by the watch", *timed)


def _operations(
    what: str, a: Setup, b: Setup, first: Plan, second: Plan, library: Library
) -> Iterator[Said]:
    """Pairs by id; of what is new by kind and place."""
    numbers = operation_numbers(first), operation_numbers(second)
    known = {op.id: op for op in b.operations}
    pairs = {op.id: known[op.id] for op in a.operations if op.id in known}
    free = [op for op in b.operations if op.id not in pairs]
    for op in a.operations:
        same = [each for each in free if each.kind == op.kind and each.on == op.on]
        if op.id not in pairs and same:
            pairs[op.id] = same[0]
            free.remove(same[0])
    for op in a.operations:
        if op.id not in pairs:
            number = Shown(f"{numbers[0][op.id]}")
            yield Said(f"{what}: without {op.VERB} ({{number}})", {"number": number})
    for op in free:
        number = Shown(f"{numbers[1][op.id]}")
        yield Said(f"{what}: {op.VERB} ({{number}}) as well", {"number": number})
    both = [op.id for op in a.operations if op.id in pairs]
    back = {pairs[id].id: id for id in both}
    then = [back[op.id] for op in b.operations if op.id in back]
    for id, _ in moves(both, then):
        other = pairs[id]
        was, now = numbers[0][id], numbers[1][other.id]
        yield Said(
            f"{what}: {other.VERB} at place {{now}} instead of {{was}}",
            {"now": Shown(f"{now}"), "was": Shown(f"{was}")},
        )
    for op in a.operations:
        if op.id in pairs:
            yield from _operation(what, op, pairs[op.id], first, second, numbers[1], library)


def _operation(
    what: str,
    a: Operation,
    b: Operation,
    first: Plan,
    second: Plan,
    numbers: dict[str, int],
    library: Library,
) -> Iterator[Said]:
    named = f"{what}/{numbers[b.id]} {b.VERB}"
    tools = [_tool(plan, op.tool) for plan, op in ((second, b), (first, a))]
    if tools[0] != tools[1]:
        keys, outs = zip(*tools, strict=True)
        if keys[0] != keys[1]:
            yield _instead(f"{named}: tool", *(_name(library.assemblies, each) for each in keys))
        elif outs[0] is not None:
            yield _instead(f"{named}: stick-out", *(Shown(each, "length") for each in outs))
    yield from _fields(named, a, b, {**SPEEDS, **asked_of(type(b))})


def _tool(plan: Plan, id: str) -> tuple[str, float | None]:
    loaded = next((each for each in plan.tools if each.id == id), None)
    return (loaded.assembly, loaded.stick_out_mm) if loaded is not None else ("", None)


def _fields(what: str, a: BaseModel, b: BaseModel, asked: dict[str, Asked]) -> Iterator[Said]:
    """What is asked for is told with both its values, the rest by its name."""
    rest = []
    for name in type(b).model_fields:
        one, other = getattr(a, name, None), getattr(b, name)
        if one == other or name in ASIDE:
            continue
        if name in asked and not isinstance(other, BaseModel | tuple):
            words = asked[name]
            yield _instead(f"{what}: {words.label}", _shown(words, other), _shown(words, one))
        else:
            rest.append(name.removesuffix("_mm").replace("_", " "))
    if rest:
        yield Said(NOT_TOLD, {"what": Shown(what), "fields": Shown(", ".join(rest))})


def _shown(words: Asked, value: Any) -> Shown:
    if value is None or value == "":
        return Shown(words.empty or "as reckoned")
    if isinstance(value, bool):
        return Shown("yes" if value else "no")
    if isinstance(value, int | float):
        return Shown(float(value), words.quantity)
    return Shown(dict(words.choices).get(str(value), str(value)))


def _instead(what: str, now: Shown, was: Shown) -> Said:
    return Said("{what} {now} instead of {was}", {"what": Shown(what), "now": now, "was": was})


def _name(items: Any, key: str) -> Shown:
    found = items.get(key)
    return Shown(str(getattr(found, "name", key) or "none"))
