"""Ways of cutting an operation, each with the answers the plan would have."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from machining.evaluate import evaluate
from machining.evaluation import Evaluation
from machining.facts.route import walk
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.document import Plan
from machining.ways.choices import Choice, choices
from machining.world.library import Library

from .asked import operation_of

PUSHED = ("size_error", "push_off", "rough_push_off", "slot_pull")


def ways(document: Plan, library: Library, memo: Memo, operation: str) -> list[dict[str, Any]]:
    """How an operation is cut now, then each other way; every figure is that of the evaluation it
    would lead to. Raises Missing.
    """
    facts = walk(document, library, memo)
    op = operation_of(facts, operation)
    found = choices(op, facts)
    return (
        _ways(operation, found, evaluate(document, library, memo), document, library, memo)
        if found
        else []
    )


def _ways(
    operation: str,
    found: Sequence[Choice],
    now: Evaluation,
    document: Plan,
    library: Library,
    memo: Memo,
) -> list[dict[str, Any]]:
    as_it_is = {
        "name": "as it is now",
        "because": "",
        "values": {},
        "pockets": None,
        "edits": [],
        "limits": [],
        **_figures(operation, now, now),
        "diameter_mm": _diameter(operation, document, library),
    }
    rows = [as_it_is]
    for choice in found:
        row = _said(choice)
        if choice.edits:
            changed = apply(document, choice.edits)
            after = evaluate(changed, library, memo)
            row |= _figures(operation, now, after)
            if choice.last:
                row |= _with_last(row, _figures(choice.last, now, after))
            row |= {
                "tool": choice.tool,
                "edits": [e.model_dump(mode="json") for e in choice.edits],
                "diameter_mm": _diameter(operation, changed, library),
            }
        if choice.cut is not None:
            row |= {
                "limits": list(choice.cut.limits),
                "push_off_mm": choice.cut.push_off,
                "life_min": choice.life_min,
            }
        rows.append(row)
    return rows


def _said(choice: Choice) -> dict[str, Any]:
    """What is said of a choice before the plan with it was answered."""
    return {
        "name": choice.label,
        "tool": choice.tool,
        "because": choice.because.text,
        "edits": [],
        "limits": list(choice.limits),
        "pockets": choice.pockets,
        "values": {
            name: {"value": shown.value, "quantity": shown.quantity}
            for name, shown in choice.because.values.items()
        },
    }


def _with_last(row: dict[str, Any], last: dict[str, Any]) -> dict[str, Any]:
    """Size and finish are those of the operation that comes last; time and stops are of both."""
    kept = {
        name: last[name]
        for name in ("push_off_mm", "roughness_um", "width_mm", "rpm", "feed_mm_min", "life_min")
    }
    return {**kept, "time_s": row["time_s"] + last["time_s"], "stops": row["stops"] + last["stops"]}


def _diameter(operation: str, document: Plan, library: Library) -> float | None:
    planned = next(op for setup in document.setups for op in setup.operations if op.id == operation)
    loaded = document.tool(planned.tool) if planned.tool else None
    assembly = library.assemblies.get(loaded.assembly) if loaded else None
    tool = library.tools.get(assembly.tool) if assembly else None
    return tool.diameter_mm if tool else None


def _figures(operation: str, now: Evaluation, after: Evaluation) -> dict[str, Any]:
    op = next(o for s in after.setups for o in s.operations if o.id == operation)

    def value(name: str) -> float | None:
        found = after.figures.get(f"{operation}.worst_{name}") or after.figures.get(
            f"{operation}.{name}"
        )
        return found.value if found else None

    return {
        "tool": f"T{op.tool_number} {op.tool_name}" if op.tool_number is not None else "no tool",
        "depth_mm": op.depth_mm,
        "width_mm": op.width_mm,
        "rpm": op.rpm,
        "feed_mm_min": op.feed_mm_min,
        "feed_per_rev_mm": value("per_turn"),
        "cutting_speed_m_min": value("cutting_speed"),
        "removal_cm3_min": value("removal"),
        "power_kw": value("power"),
        "power_limit_kw": value("power_limit"),
        "torque_nm": value("torque"),
        "torque_limit_nm": value("torque_limit"),
        "push_off_mm": next((v for name in PUSHED if (v := value(name)) is not None), None),
        "roughness_um": value("feed_marks") or value("turned_finish"),
        "life_min": value("edge_life"),
        "holding": value("holding"),
        "time_s": op.time_s,
        "one_part_s": after.one_part_s - now.one_part_s,
        "stops": sum(f.severity == "stop" and f.operation == operation for f in after.findings),
        "brings": after.count("stop") - now.count("stop"),
    }
