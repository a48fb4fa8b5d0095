"""cut.life, cut.only-one: the edges on hand do not last the batch. Told at the first operation of
the tool.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import ceil, pi

from machining.cutting.data import constant
from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.facts.worn import edges_of_a_part
from machining.plan.edit import Change, Edit, LoadTool
from machining.plan.loading import loaded as load
from machining.plan.proposal import Proposal
from machining.quantities.said import Shown

from ..finding import Finding, of_operation


def life(op: Ready, facts: PlanFacts) -> Iterator[Finding]:
    minutes, tool, loaded = op.value("edge_life"), op.tool, op.loaded
    if minutes is None or tool.on_hand is None:
        return
    using = (
        each
        for each in facts.operations()
        if isinstance(each, Ready) and each.loaded.id == loaded.id and each.time.total_s > 0
    )
    first = next(using, None)
    if first is None or first.id != op.id:
        return  # told once, where the tool is used first
    sharing = [first, *using]
    worn = sum(edges_of_a_part(each, minutes) or 0.0 for each in sharing)
    needed = ceil(worn * facts.plan.quantity - 1e-9)
    if needed <= tool.on_hand:
        return
    values = {
        "tool": Shown(f"T{loaded.number}"),
        "needed": Shown(float(needed), "count"),
        "quantity": Shown(float(facts.plan.quantity), "count"),
        "life": Shown(minutes, "minutes"),
        "hand": Shown(float(tool.on_hand), "count"),
    }
    fixes: list[Proposal] = []
    if tool.on_hand >= 1 and len(sharing) == 1:
        fixes += _speed_to_last(op, worn * facts.plan.quantity / tool.on_hand)
    fixes.append(_a_second_one(op, facts))
    id = "cut.only-one" if tool.on_hand == 1 else "cut.life"
    yield of_operation(
        op,
        id,
        "look",
        "{tool} lasts {life} in cut: {quantity} parts wear out {needed}, and {hand} are on hand.",
        values,
        "edge_life",
        tuple(fixes),
    )


def _a_second_one(op: Ready, facts: PlanFacts) -> Proposal:
    assembly = facts.library.assemblies[op.loaded.assembly]
    more = load(facts.plan, op.loaded.machine, assembly, op.loaded.stick_out_mm)
    words = {"number": Shown(str(more.number))}
    return Proposal("Set a second one ready as T{number}", (LoadTool(tool=more),), words)


def _speed_to_last(op: Ready, times: float) -> list[Proposal]:
    """The speed at which an edge lasts so many times longer, none under the material's band. A
    slower cut takes longer too.
    """
    rpm, speed, tool = op.value("rpm"), op.value("cutting_speed"), op.tool
    if rpm is None or speed is None or op.data is None or times <= 1:
        return []
    exponent = constant("taylor", tool.material)
    share = times ** -(exponent / (1.0 - exponent))
    on = f"operation:{op.operation.id}"
    if kind_of(op.operation).turned and op.operation.rpm is None:
        slower = float(int(speed * share))
        edit: Edit = Change(on=on, fields={"cutting_speed_m_min": slower})
        return (
            [
                Proposal(
                    "Turn at {speed}: the edges last",
                    (edit,),
                    {"speed": Shown(slower, "cutting_speed")},
                )
            ]
            if slower >= op.data.speed_low
            else []
        )
    turns = float(int(rpm * share / 10) * 10)
    if rpm * share < 1000.0 * op.data.speed_low / (pi * tool.diameter_mm):
        return []
    return [
        Proposal(
            "Turn at {rpm}: the edge lasts",
            (Change(on=on, fields={"rpm": turns}),),
            {"rpm": Shown(turns, "spindle_speed")},
        )
    ]
