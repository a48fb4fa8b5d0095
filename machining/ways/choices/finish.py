"""Other ways to the last size of a wall."""

from __future__ import annotations

from math import inf

from machining.cutting import speeds
from machining.facts.at_hand import at_hand
from machining.facts.context import PlanFacts, Ready
from machining.facts.kinds import kind_of
from machining.facts.roughed import leaves
from machining.plan.base import FEED_TYPED, SPEED_TYPED
from machining.plan.edit import AddOperation, Change, LoadTool
from machining.plan.loading import loaded as load
from machining.plan.operation import (
    FinishWalls,
)
from machining.world.tool import Tool

from .choice import Choice, Question, down, shop_feed

STEP_MM = 0.01
SAME_SPEED = 0.02
LEAST_LEFT_MM = 0.001  # of a wall, worth another round
QUESTIONS = {
    "finish_walls": Question(
        "a narrower last cut, another speed, a spring pass, measuring on the way, a tool of its"
        " own: size and finish of each",
        "sizes",
    ),
}


def finish_choices(op: Ready, facts: PlanFacts) -> list[Choice]:
    """Other ways to the last size of a wall: width, speed, chip, a spring pass, measuring on the
    way, a tool of its own.
    """
    kind, tool, data = op.operation, op.tool, op.data
    if not isinstance(kind, FinishWalls) or data is None or "feed" not in op.figures:
        return []
    narrower = down(0.5 * kind.width_mm, STEP_MM)
    on, name = f"operation:{kind.id}", f"T{op.loaded.number} {tool.name}"
    rpm, feed, rig = op.figures["rpm"].value, op.figures["feed"].value, op.rig

    def choice(words: str, finer: bool, **fields: object) -> Choice:
        return Choice(words, (Change(on=on, fields=fields),), tool=name, finer=finer)

    width = (*leaves(op, narrower), Change(on=on, fields={"width_mm": narrower}))
    found = [
        Choice("a narrower last cut", width, tool=name),
        choice("once more at the same size", finer=True, passes=kind.passes + 1),
    ]
    for words, speed in (("faster", data.speed_high), ("slower", data.speed_low)):
        most = min(rig.spindle.max_rpm, tool.max_rpm or inf, op.holder.max_rpm or inf)
        turns = speeds.speed_in_steps(
            min(speeds.spindle_speed(speed, tool.diameter_mm), most),
            facts.library.settings.speed_step_rpm,
        )
        if abs(turns - rpm) > SAME_SPEED * rpm:
            found.append(
                choice(
                    words,
                    finer=turns < rpm,
                    rpm=turns,
                    feed_mm_min=shop_feed(
                        min(feed * turns / rpm, rig.machine.max_feed_mm_min), facts
                    ),
                )
            )
    thinner = 0.6 * op.figures["chip"].value
    if thinner > tool.edge_radius_mm:
        less = shop_feed(0.6 * feed, facts)
        found.append(choice("a thinner chip", finer=True, feed_mm_min=less))
    if kind.chain == 1:
        found.append(choice("measured before the last cut", finer=True, chain=2))
    return [
        *found,
        *(
            each
            for each in (_smaller_spring(op, facts), _own_finisher(op, facts))
            if each is not None
        ),
    ]


def _smaller_spring(op: Ready, facts: PlanFacts) -> Choice | None:
    """A spring pass by an end mill a size smaller: it takes what push-off left, and touches less of
    the wall at once.
    """
    kind, tool, left = op.operation, op.tool, op.value("size_error") or op.value("push_off")
    if not isinstance(kind, FinishWalls) or left is None or left < LEAST_LEFT_MM:
        return None
    deep = op.work.wall_height

    def suits(other: Tool) -> bool:
        return (
            other.kind == "end_mill"
            and other.diameter_mm < tool.diameter_mm
            and other.corner_radius_mm <= tool.corner_radius_mm
            and other.usable_length_mm >= deep
        )

    found = at_hand(facts, op.loaded.machine, suits, lambda other: other.diameter_mm)
    if found is None:
        return None
    loaded, smaller = found.loaded, found.tool
    spring = kind.model_copy(
        update={
            "id": f"{kind.id[:38]}spring",
            "tool": loaded.id,
            "width_mm": down(left, LEAST_LEFT_MM),
            "step_down_mm": min(kind.step_down_mm, smaller.flute_length_mm),
            "passes": 1,
            "chain": 1,
            **dict.fromkeys((*SPEED_TYPED, *FEED_TYPED)),
            "kept": (),
            "proven_in": "",
            "pinned": False,
            "stop_after": "",
            "reason": "spring pass by a smaller tool",
        }
    )
    at = [each.id for each in op.setup.planned.operations].index(kind.id) + 1
    return Choice(
        "a spring pass by a size smaller",
        (*found.loads, AddOperation(setup=op.setup.planned.id, operation=spring, index=at)),
        tool=f"T{loaded.number} {smaller.name} after it",
        last=spring.id,
    )


def _own_finisher(op: Ready, facts: PlanFacts) -> Choice | None:
    """A tool no roughing cut of the plan uses: one loaded here that fits, else a twin."""
    roughs = {
        other.loaded.id
        for other in facts.operations()
        if kind_of(other.operation).roughs and other.loaded is not None
    }
    if op.loaded.id not in roughs:
        return None
    new = load(
        facts.plan,
        op.loaded.machine,
        facts.library.assemblies[op.loaded.assembly],
        op.loaded.stick_out_mm,
        facts.library.standing(op.loaded.machine),
    )
    return Choice(
        "a tool of its own",
        (LoadTool(tool=new), Change(on=f"operation:{op.operation.id}", fields={"tool": new.id})),
        tool=f"T{new.number} {op.tool.name}, loaded for it",
    )
