"""The record of a release, checked without anything but itself."""

from __future__ import annotations

import json
from dataclasses import dataclass
from hashlib import sha256
from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import ENGINE, to_plain
from machining.quantities.errors import MachiningError

from . import plan_json

NAME, CLOSE = "fabrotax-release", 1e-9


class NotARecord(MachiningError):
    """A file that is no record of a release, or no longer one."""

    def __init__(self, sentence: str) -> None:
        super().__init__("record", "", "")
        self.args = (sentence,)


@dataclass(frozen=True, slots=True)
class Checked:
    """What a record is of; ``differs`` names the first place where working it out again says
    something else.
    """

    job: str
    number: int
    by: str
    at: str
    sha256: str
    said: str
    differs: str = ""


def canonical(value: Any) -> bytes:
    """Sorted keys, no spaces: the same content gives the same bytes."""
    return json.dumps(
        value, sort_keys=True, separators=(",", ":"), ensure_ascii=False, allow_nan=False
    ).encode()


def check(content: bytes) -> Checked:
    """Raises NotARecord for a file that was touched: its bytes are then not those that its content
    gives.
    """
    try:
        raw = json.loads(content)
        if not isinstance(raw, dict) or raw.get("format") != NAME:
            raise NotARecord(f"The file is no record of a release: its 'format' must be {NAME!r}.")
        if canonical(raw) != content:
            raise NotARecord("The file is not as it was written: something changed it.")
        job, release = raw["job"], raw["release"]
        about = (
            str(job["number"]),
            int(release["number"]),
            str(release["by"]),
            str(release["at"]),
            sha256(content).hexdigest(),
        )
        plan, library = plan_json.read(canonical(raw["export"]))
    except (ValueError, KeyError, TypeError, RecursionError) as problem:
        if isinstance(problem, MachiningError):
            raise
        raise NotARecord("The file is no record of a release, or it is damaged.") from problem
    if raw.get("engine") != ENGINE:
        return Checked(
            *about,
            f"It is whole. It was worked out by engine {raw.get('engine')}; this is {ENGINE}, so it"
            " is not worked out again.",
        )
    again = json.loads(canonical(to_plain(evaluate(plan, library))))
    return Checked(
        *about,
        "It is whole, and worked out again it says the same.",
        _difference(raw["evaluation"], again, ""),
    )


def _difference(told: Any, found: Any, place: str) -> str:
    """Where two plain values first differ by more than rounding; empty where they don't."""
    if isinstance(told, dict) and isinstance(found, dict):
        if told.keys() != found.keys():
            return f"{place}: {sorted(told.keys() ^ found.keys())[0]}"
        return next(
            (
                d
                for key in sorted(told)
                if (d := _difference(told[key], found[key], f"{place}.{key}"))
            ),
            "",
        )
    if isinstance(told, list) and isinstance(found, list):
        if len(told) != len(found):
            return f"{place}: {len(told)} and {len(found)} entries"
        return next(
            (
                d
                for k, (a, b) in enumerate(zip(told, found, strict=True))
                if (d := _difference(a, b, f"{place}.{k}"))
            ),
            "",
        )
    if (
        isinstance(told, int | float)
        and isinstance(found, int | float)
        and not isinstance(told, bool)
    ):
        return (
            ""
            if abs(told - found) <= CLOSE * max(1.0, abs(told))
            else f"{place}: {told} and {found}"
        )
    return "" if told == found else f"{place}: {str(told)[:40]!r} and {str(found)[:40]!r}"
