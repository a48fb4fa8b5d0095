"""Every numeric field of every operation and setup changed once, and how long the answer takes.

``python -m tests.bench.every_edit`` prints median, 95th percentile and worst of each plan, and the
slowest edits by name. Part of ``make bench``.
"""

from __future__ import annotations

from dataclasses import dataclass
from statistics import median, quantiles
from time import perf_counter

from machining.evaluate import evaluate
from machining.geometry.kernel import examine
from machining.memo import Memo
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

SLOWEST = 8


@dataclass(frozen=True)
class Edit:
    on: str
    field: str
    seconds: float


def timed(plan: Plan, library: Library) -> list[Edit]:
    """Each edit by itself on the plan as it stands, with all that is known of the plan kept."""
    memo, found = Memo(), []
    evaluate(plan, library, memo)
    for on, field, value in edits_of(plan):
        try:
            changed = apply(plan, [Change(on=on, fields={field: another(value)})])
        except MachiningError:
            continue  # the record takes no other value there
        start = perf_counter()
        evaluate(changed, library, memo)
        found.append(Edit(on, field, perf_counter() - start))
    return found


def report(name: str, plan: Plan, library: Library) -> None:
    found = timed(plan, library)
    seconds = [each.seconds for each in found]
    last = quantiles(seconds, n=20)[-1]
    print(
        f"{name}: {len(found)} edits, median {1000 * median(seconds):.0f} ms,"
        f" 95 % in {1000 * last:.0f} ms, worst {1000 * max(seconds):.0f} ms"
    )
    for each in sorted(found, key=lambda edit: -edit.seconds)[:SLOWEST]:
        print(f"  {1000 * each.seconds:6.0f} ms  {each.on} {each.field}")


def main() -> None:
    geometry = from_examined("clamp", examine(DEMO.read_bytes()))
    report("TW-118", *demo_of(geometry))
    report("turned, 7 operations", lathe.plan(*lathe.GOOD), lathe.LIBRARY)
    report("60 operations", long_plan(), build.LIBRARY)


if __name__ == "__main__":
    main()
