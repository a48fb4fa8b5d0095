"""Every numeric field of every operation and setup changed once, and how long the answer takes:
until the edited operation is answered, and until all of the plan is.

``python -m tests.bench.every_edit`` prints median, 95th percentile and worst of each plan, and the
slowest edits by name. Part of ``make bench``.
"""

from __future__ import annotations

from dataclasses import dataclass
from statistics import median, quantiles
from time import perf_counter

from machining.evaluate import evaluate
from machining.facts.pace import pace_since
from machining.geometry.kernel import examine
from machining.memo import Memo, digest
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.plan.edit import Change
from machining.quantities.errors import MachiningError
from machining.world.geometry import from_examined
from machining.world.library import Library
from tests.core import build, lathe
from tests.core.conftest import DEMO, demo_of
from tests.core.every_edit import another, edits_of
from tests.core.long import long_plan

SLOWEST = 5


@dataclass(frozen=True)
class Edit:
    on: str
    field: str
    first_s: float
    all_s: float


def timed(plan: Plan, library: Library) -> list[Edit]:
    """Each edit by itself on the plan as it stands, with all that is known of the plan kept."""
    memo, found, before = Memo(), [], digest(plan.model_dump_json())
    for on, field, value in edits_of(plan):
        try:
            changed = apply(plan, [Change(on=on, fields={field: another(value)})])
        except MachiningError:
            continue  # the record takes no other value there
        evaluate(plan, library, memo)  # the memo is bounded: what the edit before drove out
        start = perf_counter()
        evaluate(changed, library, memo, pace_since(before, library, memo))
        first = perf_counter()
        evaluate(changed, library, memo)
        found.append(Edit(on, field, first - start, perf_counter() - start))
    return found


def report(name: str, plan: Plan, library: Library) -> None:
    found = timed(plan, library)
    print(f"{name}: {len(found)} edits")
    for what, seconds in (
        ("edited operation", [each.first_s for each in found]),
        ("all of the plan", [each.all_s for each in found]),
    ):
        last = quantiles(seconds, n=20)[-1]
        print(
            f"  {what:<17} median {1000 * median(seconds):.0f} ms,"
            f" 95 % in {1000 * last:.0f} ms, worst {1000 * max(seconds):.0f} ms"
        )
    for each in sorted(found, key=lambda edit: -edit.first_s)[:SLOWEST]:
        print(f"  {1000 * each.first_s:6.0f} ms  {each.on} {each.field}")


def main() -> None:
    geometry = from_examined("clamp", examine(DEMO.read_bytes()))
    report("TW-118", *demo_of(geometry))
    report("turned, 7 operations", lathe.plan(*lathe.GOOD), lathe.LIBRARY)
    report("60 operations", long_plan(), build.LIBRARY)


if __name__ == "__main__":
    main()
