"""Format 1 to 2: any words in ``reason`` silenced whole rules; now single findings are kept, with
words.

An old reason keeps the findings to look at that it can have silenced, as far as the operation's own
values tell; the reason itself stays as a note. Coolant becomes a code, and what was written there
instead moves into the note.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

Op = dict[str, Any]
MILLS = {
    "face",
    "rough_outside",
    "rough_pocket",
    "finish_walls",
    "finish_floor",
    "counterbore",
    "spot_face",
    "mill_hole",
    "mill_thread",
    "undercut",
    "engrave",
    "round_edge",
    "slope",
    "chamfer",
}
COOLANTS = ("flood", "mist", "air", "through", "none")


def _typed(op: Op, *names: str) -> bool:
    return any(op.get(name) is not None for name in names)


def _kind(*kinds: str) -> Callable[[Op], bool]:
    return lambda op: op.get("kind") in kinds


SILENCED: tuple[tuple[str, Callable[[Op], bool]], ...] = (
    ("cut.speed-band", lambda op: _typed(op, "rpm", "cutting_speed_m_min")),
    ("cut.slot-deep", _kind("rough_outside", "rough_pocket")),
    ("cut.one-pass", _kind("rough_outside", "rough_pocket")),
    ("cut.peck", lambda op: op.get("kind") == "drill" and op.get("peck_mm") is None),
    (
        "cut.effective-speed",
        lambda op: (
            op.get("kind") in ("chamfer", "engrave", "countersink", "slope")
            and not _typed(op, "rpm")
        ),
    ),
    ("cut.drill-slow", lambda op: op.get("kind") == "drill" and not _typed(op, "rpm")),
    ("cut.tap-risk", _kind("tap")),
    (
        "cut.angled-load-grows",
        lambda op: (
            op.get("kind") == "undercut" and op.get("equal") == "step" and op.get("passes", 3) > 1
        ),
    ),
    (
        "cut.thread",
        lambda op: (
            op.get("kind") == "mill_thread"
            and (op.get("hand", "right") == "right") != (op.get("cuts", "up") == "up")
        ),
    ),
    (
        "cut.interrupted",
        lambda op: (
            op.get("kind")
            in (
                "drill",
                "ream",
                "tap",
                "bore",
                "turn_face",
                "turn_rough",
                "turn_finish",
                "turn_groove",
                "part_off",
            )
        ),
    ),
    ("cut.up-cut", lambda op: op.get("kind") == "face" and op.get("ways", "both") == "both"),
    ("cut.special-tool", lambda op: bool(op.get("tool"))),
    ("cut.groove-as-rougher", _kind("turn_groove", "turn_rough")),
    ("cut.plunge", lambda op: op.get("kind") == "rough_pocket" and op.get("enter") == "plunge"),
    ("cut.simultaneous", lambda op: op.get("kind") == "slope" and op.get("axes") == "live"),
    ("reach.slender-tool", _kind(*MILLS)),
    ("reach.behind-shoulder", _kind("turn_rough", "turn_finish")),
    ("size.spring-pass", lambda op: op.get("kind") == "finish_walls" and op.get("passes", 1) == 1),
    (
        "size.floor-pass",
        lambda op: op.get("kind") == "rough_pocket" and not op.get("leave_floor_mm"),
    ),
    ("size.worn-finisher", _kind("finish_walls", "turn_finish")),
    ("travel.feed-unreachable", _kind(*MILLS)),
)
# a stop after a tapped hole silenced it too, as one between two operations did the change of range
BY_STOP = "cut.tap-risk"


def step(raw: dict[str, Any]) -> dict[str, Any]:
    setups = raw.get("setups", [])
    return {
        **raw,
        "format": 2,
        "setups": [_setup(each) for each in setups] if isinstance(setups, list | tuple) else setups,
    }


def _setup(setup: Any) -> Any:
    if not isinstance(setup, dict) or not isinstance(setup.get("operations", []), list | tuple):
        return setup
    operations = [_operation(each) for each in setup.get("operations", [])]
    stops = [
        stop
        for op in operations[:-1]
        if isinstance(op, dict)
        and isinstance(stop := op.get("stop_after", ""), str)
        and stop.strip()
    ]
    return {
        **setup,
        "operations": operations,
        **({"kept": [["cut.range-change", stops[0][:200]]]} if stops else {}),
    }


def _typed_one_way(op: Op) -> Op:
    """Speed and feed stand in one way each: of a turned operation's that count, which were rpm
    before the speed at its edge, and the feed a turn.
    """
    both = [("cutting_speed_m_min", "rpm"), ("feed_mm_min", "feed_per_rev_mm")]
    return {
        name: value
        for name, value in op.items()
        if not any(
            name == idle and _typed(op, idle) and _typed(op, counts) for idle, counts in both
        )
    }


def _operation(op: Any) -> Any:
    if not isinstance(op, dict):
        return op
    reason, stop = op.get("reason", ""), op.get("stop_after", "")
    kept = (
        [[id, reason[:200]] for id, silenced in SILENCED if silenced(op)]
        if isinstance(reason, str) and reason.strip()
        else []
    )
    if (
        op.get("kind") == "tap"
        and isinstance(stop, str)
        and stop.strip()
        and all(id != BY_STOP for id, _ in kept)
    ):
        kept.append([BY_STOP, stop[:200]])
    op = _typed_one_way(op)
    changed = {**op, **({"kept": kept} if kept else {})}
    coolant = op.get("coolant", "flood")
    if coolant not in COOLANTS and isinstance(coolant, str) and isinstance(reason, str):
        changed |= {"coolant": "flood", "reason": f"{reason} Coolant: {coolant}."[:300].strip()}
    return changed
