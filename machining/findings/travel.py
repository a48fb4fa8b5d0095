"""Travel: does it all fit inside the machine?"""

from __future__ import annotations

from collections.abc import Iterator

from machining.facts.context import OperationFacts, PlanFacts
from machining.facts.paths import time_at
from machining.facts.reach import cutting_length_needed
from machining.plan.edit import Change

from .finding import Finding, Fix, Shown, about_operation, keep, length, of_operation

WORTH_A_LOOK_S = 3.0
WORDS = {
    "travel_x": "X",
    "travel_y": "Y",
    "travel_up": "Z upwards",
    "travel_down": "Z downwards",
    "travel_z": "Z",
    "travel_swing": "The swing",
}


@about_operation
def axis(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    for name, words in WORDS.items():
        spare = op.figures.get(name)
        if spare is None or spare.value >= 0:
            continue
        yield of_operation(
            op,
            "travel.axis",
            "stop",
            "{axis} runs out by {over}.",
            {"axis": Shown(words), "over": length(-spare.value)},
            name,
            _fixes(op, facts, name, -spare.value),
        )
        return


def _fixes(op: OperationFacts, facts: PlanFacts, name: str, over: float) -> tuple[Fix, ...]:
    fixes: list[Fix] = []
    loaded = op.loaded
    if name == "travel_up" and loaded is not None and op.work is not None:
        shorter = float(int(loaded.stick_out_mm - over))
        least = max(op.value("stick_out_needed") or 0.0, cutting_length_needed(op))
        if shorter >= least:
            fixes.append(
                Fix(
                    "Set stick-out to {shorter}",
                    (Change(on=f"tool:{loaded.id}", fields={"stick_out_mm": shorter}),),
                    {"shorter": length(shorter)},
                )
            )
    turns = op.setup.machine is not None and op.setup.machine.kind == "lathe"
    for machine in facts.library.machines.values():
        if (
            machine is not op.setup.machine
            and (machine.kind == "lathe") == turns
            and machine.travel.x >= (op.setup.machine.travel.x if op.setup.machine else 0.0)
        ):
            edits = (
                *(
                    Change(on=f"operation:{each.id}", fields={"tool": ""})
                    for each in op.setup.setup.operations
                    if each.tool
                ),
                Change(on=f"setup:{op.setup.setup.id}", fields={"machine": machine.key}),
            )
            fixes.append(
                Fix(
                    "Run setup {setup} on {machine}; its tools must be loaded there",
                    edits,
                    {"setup": Shown(str(op.setup.number)), "machine": Shown(machine.name)},
                )
            )
            break
    return tuple(fixes)


@about_operation
def speed_over(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    machine, wanted = op.setup.machine, op.operation.rpm
    if machine is None or wanted is None:
        return
    limit = min(
        machine.max_rpm,
        op.tool.max_rpm or 1e9 if op.tool else 1e9,
        op.holder.max_rpm or 1e9 if op.holder else 1e9,
    )
    if wanted > limit:
        yield of_operation(
            op,
            "travel.speed-over",
            "stop",
            "{wanted} is faster than machine, tool and holder allow, {limit}.",
            {"wanted": Shown(wanted, "spindle_speed"), "limit": Shown(limit, "spindle_speed")},
            "rpm",
            (
                Fix(
                    "Turn at {limit}",
                    (Change(on=f"operation:{op.operation.id}", fields={"rpm": limit}),),
                    {"limit": Shown(limit, "spindle_speed")},
                ),
            ),
        )
    elif wanted < machine.min_rpm:
        yield of_operation(
            op,
            "travel.speed-over",
            "stop",
            "{wanted} is slower than the spindle turns, {limit}.",
            {
                "wanted": Shown(wanted, "spindle_speed"),
                "limit": Shown(machine.min_rpm, "spindle_speed"),
            },
            "rpm",
            (
                Fix(
                    "Turn at {limit}",
                    (Change(on=f"operation:{op.operation.id}", fields={"rpm": machine.min_rpm}),),
                    {"limit": Shown(machine.min_rpm, "spindle_speed")},
                ),
            ),
        )


@about_operation
def feed_over(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """travel.feed-unreachable"""
    machine, wanted = op.setup.machine, op.value("feed") if op.operation.feed_typed else None
    if machine is None or wanted is None or wanted <= machine.max_feed_mm_min * (1.0 + 1e-9):
        return
    limit = machine.max_feed_mm_min
    yield of_operation(
        op,
        "travel.feed-unreachable",
        "look",
        "{wanted} is over the machine's largest feed, {limit}.",
        {"wanted": Shown(wanted, "feed"), "limit": Shown(limit, "feed")},
        "feed",
        (
            Fix(
                "Feed {limit}",
                (Change(on=f"operation:{op.operation.id}", fields={"feed_mm_min": limit}),),
                {"limit": Shown(limit, "feed")},
            ),
        ),
    )


@about_operation
def feed_not_reached(op: OperationFacts, facts: PlanFacts) -> Iterator[Finding]:
    """travel.feed-unreachable: corners and moves so short that the axes never get up to
    the feed.
    """
    reached, asked, share = (
        op.value("reached_feed"),
        op.value("centre_feed") or op.value("feed"),
        facts.library.settings.reached_share,
    )
    if (
        reached is None
        or asked is None
        or op.time is None
        or reached >= share * asked
        or op.time.sideways_s < WORTH_A_LOOK_S
    ):
        return
    on = f"operation:{op.operation.id}"
    stay = keep(op, "travel.feed-unreachable", "short moves: the feed is only a limit")
    slower = _reachable(op, asked, 1.05 * share)
    fixes = (
        []
        if slower is None
        else [
            Fix(
                "Feed {feed}",
                (Change(on=on, fields={"feed_mm_min": slower}),),
                {"feed": Shown(slower, "feed")},
            )
        ]
    )
    yield of_operation(
        op,
        "travel.feed-unreachable",
        "look",
        "Its moves are too short for {asked}: on average the axes reach {reached}, and the chip is"
        " thinner than it looks.",
        {"asked": Shown(asked, "feed"), "reached": Shown(reached, "feed")},
        "reached_feed",
        (*fixes, stay),
    )


def _reachable(op: OperationFacts, asked: float, share: float) -> float | None:
    """The largest feed (mm/min at the edge) of which the path reaches a share on average, None
    where none does.
    """
    at_edge = (op.value("feed") or asked) / asked
    for k in range(19, 1, -1):
        middle = asked * k / 20.0
        time = time_at(op, middle)
        if 60.0 * time.sideways_mm / time.sideways_s > share * middle:
            return float(f"{middle * at_edge:.2g}")
    return None
