"""The record of a release: everything a sheet is made from, as canonical JSON whose
hash names it.
"""

from __future__ import annotations

import json
from typing import Any

from machining.evaluation import ENGINE
from machining.exchange import plan_json
from machining.exchange.release_record import NAME, canonical
from machining.plan.document import Plan as Document
from machining.world.library import Library


def record(
    document: Document,
    library: Library,
    evaluation: dict[str, Any],
    job: dict[str, Any],
    release: dict[str, Any],
    accepted: list[dict[str, Any]],
    kept: list[dict[str, Any]],
    sheets: list[dict[str, Any]],
) -> bytes:
    """Sorted keys, no spaces: the same content gives the same bytes. ``sheets`` are what stands on
    the sheet of each setup.
    """
    return canonical(
        {
            "format": NAME,
            "version": 2,
            "engine": ENGINE,
            "job": job,
            "release": release,
            "accepted": accepted,
            "kept": kept,
            "export": json.loads(plan_json.write(document, library)),
            "evaluation": evaluation,
            "sheets": sheets,
        },
    )
