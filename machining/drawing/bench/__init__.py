"""The drawing of each calculator: it follows the numbers, and has no other meaning."""

from __future__ import annotations

from typing import Any

from machining.quantities.display import System

from . import holes, milling, others, turning
from .board import Board, Draw

DRAWINGS: dict[str, Draw] = {
    "milling-speeds": milling.cutter,
    "chip-thinning": milling.engagement,
    "milling-load": milling.engagement,
    "drilling-load": holes.drilling,
    "turning-load": turning.load,
    "peck-count": holes.pecks,
    "face-passes": milling.face_passes,
    "facing-time": turning.facing,
    "move-time": others.move,
    "tool-deflection": others.cantilever,
    "scallop": holes.scallop,
    "spot-depth": milling.spotted,
    "ball-in-cone": holes.ball_in_cone,
    "tap-drill": holes.tapped,
    "thread-mill": holes.thread_milled,
    "thread-turning": turning.thread,
    "engrave-width": milling.engraved,
    "tilted-chamfer": milling.tilted,
    "undercut-passes": milling.undercut,
    "turning-passes": turning.passes,
    "turned-finish": turning.finish,
    "clamp-force": others.screw,
    "chuck-grip": turning.chuck,
    "rotary-offset": others.rotary,
    "bar-yield": turning.bar,
    "wear-offset": holes.bore_wear,
    "sine-height": others.sine,
    "taper": turning.taper,
    "runout": others.runout,
    "nest-shim": others.shim,
    "batch-time": others.batch,
    "break-even": others.crossing,
    "solve-feed": milling.solved,
    "ramp": milling.ramp,
    "tool-life": others.life,
    "corner-by-ball": holes.corner_by_ball,
    "correction-chain": holes.chain,
    "pipe-taper": turning.pipe,
}


def draw(
    name: str, title: str, given: dict[str, Any], found: dict[str, Any], system: System = "metric"
) -> str:
    """SVG text of a calculator's drawing for its inputs (as read) and results."""
    board = Board(title, system)
    DRAWINGS[name](board, given, found)
    return board.sheet.done()
