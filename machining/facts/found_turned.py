"""The cut as found of what turns: its path carried through the half section of the stock."""

from __future__ import annotations

import numpy as np

from machining.geometry.frames import Vector
from machining.memo import Memo
from machining.plan.turned import PartOff, Profile, RingGroove, TurnGroove, TurnThread
from machining.removal import turned
from machining.removal.turned_loads import FoundTurned, Turning, found_turned

from .context import OperationFacts, Ready
from .kinds import kind_of

BLADES = ("turning_groove", "part_off")


def turning_of(op: Ready) -> Turning:
    """At what its path is turned; needs its rpm and chip."""
    kept = op.operation.rpm is None and not isinstance(op.operation, TurnThread)
    top = op.value("top_rpm") or op.figures["rpm"].value
    return Turning(
        op.figures["cutting_speed"].value if kept else None,
        top if kept else op.figures["rpm"].value,
        op.figures["chip"].value,
    )


def look(op: Ready, memo: Memo) -> None:
    """Fill what its path meets at its feed, where that turns. Needs rpm and chip."""
    if not op.turns or not op.path.legs or not op.needs("rpm", "chip"):
        return
    section = op.before.half_section()
    if isinstance(op.operation, TurnThread):
        op.found_turned = FoundTurned(turned.share_within(op.path, section))
        return
    key = ("swept", op.path_key, op.before.key, op.tool)
    swept = memo.get(key, lambda: turned.sweep(op.path, profile_of(op), section)[0])
    fed = np.array([leg.kind != "rapid" for leg in op.path.legs])[swept.leg]
    op.found_turned = found_turned(swept, fed, turning_of(op))


def profile_of(op: Ready) -> Vector:
    """What its tool sweeps, as corners from its tip."""
    tool, operation = op.tool, op.operation
    if not kind_of(operation).turned:
        return turned.on_axis(tool)
    wide = tool.insert_width_mm or 0.0
    if isinstance(operation, TurnGroove | PartOff):
        return (
            turned.blade_in_face(wide)
            if isinstance(operation.on, RingGroove)
            else turned.blade(wide, -wide / 2.0)
        )
    if tool.kind in BLADES:
        return turned.blade(wide, 0.0)
    on = operation.on
    return turned.corner(tool, not isinstance(on, Profile) or on.side == "outside")


def depth_mm(op: OperationFacts) -> float | None:
    """Depth of cut where its path meets most; None for what has none, or is all in air."""
    if op.found_turned is None or not kind_of(op.operation).turned:
        return None
    return op.found_turned.depth
