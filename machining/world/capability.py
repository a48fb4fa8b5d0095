"""What a machine can do: who turns, what it tilts. The one place that reads it off the machine's
record.
"""

from __future__ import annotations

from .machine import Machine


def turns_work(machine: Machine | None) -> bool:
    """Does the work turn, and the tool stand still?"""
    return machine is not None and machine.kind == "lathe"


def should_tilt(machine: Machine) -> bool:
    """Is it built to tilt, though its record says nothing of how?"""
    return machine.rotary is None and machine.kind == "mill-5"
