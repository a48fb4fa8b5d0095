"""What plans were answered before: their figures, findings, times and drawings, kept to compare
with.

``python -m tests.core.record`` records again what has changed on purpose; the samples themselves
stay.
"""

from __future__ import annotations

import json
import lzma
import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import isclose
from pathlib import Path
from typing import Any

from machining.data import seed
from machining.drawing.holding import holding_drawing
from machining.evaluate import evaluate
from machining.evaluation import OperationResult
from machining.facts.route import walk
from machining.findings.finding import in_words
from machining.memo import Memo
from machining.plan.document import Plan
from machining.plan.upgrades import up_to_date
from machining.quantities.errors import MachiningError
from machining.quantities.said import fill
from machining.world.geometry import PartGeometry, from_json
from machining.world.library import Library
from machining.world.settings import Settings
from machining.world.upgrades import item_up_to_date

FOLDER = Path(__file__).parent.parent / "record"
SAMPLES, SOLIDS, ANSWERS = (
    FOLDER / "samples.json.xz",
    FOLDER / "solids.json.xz",
    FOLDER / "answers.json.xz",
)
NUMBER = re.compile(r"-?\d+\.?\d*")
SEED = seed()


@dataclass(frozen=True)
class Sample:
    """A plan as it was stored, what its library has beyond the seed's, its solid by name, and
    whether its setups were drawn.
    """

    name: str
    plan: dict[str, Any]
    beyond: dict[str, Any]
    solid: str
    drawn: bool


def read(path: Path) -> Any:
    return json.loads(lzma.decompress(path.read_bytes()))


def write(path: Path, value: Any) -> None:
    text = json.dumps(value, separators=(",", ":"), ensure_ascii=False, sort_keys=True)
    path.write_bytes(lzma.compress(text.encode(), preset=9 | lzma.PRESET_EXTREME))


def samples() -> list[Sample]:
    return [Sample(**raw) for raw in read(SAMPLES)]


def solids() -> dict[str, PartGeometry]:
    return {name: from_json(json.dumps(raw).encode()) for name, raw in read(SOLIDS).items()}


def library_of(sample: Sample, known_solids: dict[str, PartGeometry]) -> Library:
    """The seed with what the sample's library has besides, read as items are read from a shop's
    table.
    """
    tables: dict[str, Any] = {}
    for kind, change in sample.beyond.items():
        if kind == "settings":
            tables[kind] = Settings.model_validate(change)
            continue
        known = getattr(SEED, kind)
        record = type(next(iter(known.values())))
        changed = {
            key: record.model_validate(item_up_to_date(kind, change["format"], raw))
            for key, raw in change["changed"].items()
        }
        now = {key: each for key, each in {**known, **changed}.items() if key not in change["gone"]}
        # samples were taken when vises and chucks had a table each
        if kind in ("vises", "chucks"):
            others = SEED.chucks if kind == "vises" else SEED.vises
            tables["holdings"] = {**tables.get("holdings", others), **now}
        else:
            tables[kind] = now
    if sample.solid:
        tables["geometries"] = {sample.plan["part"]["geometry"]: known_solids[sample.solid]}
    return replace(SEED, **tables)


def told(
    sample: Sample, known_solids: dict[str, PartGeometry], memo: Memo | None = None
) -> dict[str, Any]:
    """The answer to a sample, as plain values."""
    plan, library = Plan.model_validate(up_to_date(sample.plan)), library_of(sample, known_solids)
    seen = evaluate(plan, library, memo)
    return {
        "problem": seen.problem,
        "times": [seen.cutting_s, seen.changes_s, seen.handling_s, seen.one_part_s, seen.batch_s],
        "sizes": [
            *seen.part_size,
            *seen.stock_size,
            seen.part_volume_mm3,
            seen.part_mass_kg,
            seen.stock_mass_kg,
        ],
        "figures": {id: figure.value for id, figure in seen.figures.items()},
        "findings": {
            f"{f.id} {f.setup} {f.operation} {number}": [
                f.severity,
                in_words(f),
                f.kept,
                [fill(fix.label, {**f.values, **fix.values}) for fix in f.fixes],
            ]
            for number, f in enumerate(seen.findings)
        },
        "setups": {
            each.id: [
                each.cycle_s,
                each.tools,
                each.stations[0].handling,
                *each.stations[0].pose,
                *each.stations[0].stock_low,
                *each.stations[0].part_low,
            ]
            for each in seen.setups
        },
        "operations": {op.id: _of(op) for setup in seen.setups for op in setup.operations},
        "drawings": list(_drawings(plan, library)) if sample.drawn else [],
    }


def _of(op: OperationResult) -> dict[str, Any]:
    answers = (f"{name} {answer.state} {answer.reason}" for name, answer in op.answers.items())
    return {
        "words": [op.title, op.detail, op.tool_name, *answers],
        "numbers": [
            *op.sizes.values(),
            op.rpm,
            op.feed_mm_min,
            op.cutting_speed_m_min,
            op.feed_per_rev_mm,
            op.depth_mm,
            op.width_mm,
            op.leaves_mm,
            op.z_to_mm,
            op.path_mm,
            op.rapid_mm,
            op.cutting_s,
            op.moving_s,
            op.change_s,
            op.time_s,
            op.starts_s,
            op.removed_mm3,
        ],
        "gauges": {
            f"{each.question} {each.name}": [each.kind, each.value, each.limit]
            for each in op.gauges
        },
        "worked": {each.name: each.value for each in op.worked},
    }


def _drawings(plan: Plan, library: Library) -> Iterator[list[Any]]:
    """Each setup's drawing: its text without numbers, how many numbers it has, and their sum."""
    facts = walk(plan, library, Memo())
    for setup in facts.setups:
        try:
            text = holding_drawing(setup.first, facts)
        except MachiningError as problem:
            yield [str(problem)]
            continue
        numbers = [float(each) for each in NUMBER.findall(text)]
        yield [NUMBER.sub("#", text), len(numbers), round(sum(numbers), 3)]


def differences(before: Any, now: Any, at: str = "") -> Iterator[str]:
    """Where two answers differ: in words, in what there is, or in a number by more than
    1e-9 of it.
    """
    if isinstance(before, dict) and isinstance(now, dict):
        for key in sorted({*before, *now}):
            if key not in now or key not in before:
                yield f"{at}/{key} is {'gone' if key in before else 'new'}"
            else:
                yield from differences(before[key], now[key], f"{at}/{key}")
    elif (
        isinstance(before, list | tuple)
        and isinstance(now, list | tuple)
        and len(before) == len(now)
    ):
        for place, (one, other) in enumerate(zip(before, now, strict=True)):
            yield from differences(one, other, f"{at}/{place}")
    elif isinstance(before, float) and isinstance(now, float | int):
        if not isclose(before, now, rel_tol=1e-9, abs_tol=1e-9):
            yield f"{at}: {before!r} was, {now!r} is"
    elif before != now:
        yield f"{at}: {str(before)[:160]!r} was, {str(now)[:160]!r} is"


def main() -> None:
    known_solids = solids()
    write(ANSWERS, {each.name: told(each, known_solids) for each in samples()})


if __name__ == "__main__":
    main()
