"""Counts have a stated most."""

from __future__ import annotations

from typing import Any

import pytest

from machining.plan.document import Plan as Document
from tests.core import build

from .test_poison import MESH_OF_HOLES

HOLE = {"kind": "points", "diameter_mm": 6, "depth_mm": 5}
TOOL = {"machine": "heron", "assembly": "a", "stick_out_mm": 5, "pocket": 1, "h": 1, "d": 1}


def setup(**fields: Any) -> dict[str, Any]:
    return {"id": "s", "machine": "heron", "stations": [{"id": "st"}], **fields}


def setups_of(*operations: dict[str, Any]) -> dict[str, Any]:
    return {"setups": [setup(operations=operations)]}


def engraved(lines: list[Any]) -> dict[str, Any]:
    return setups_of({"kind": "engrave", "id": "d", "on": {"kind": "lines", "at_mm": lines}})


OVER: dict[str, dict[str, Any]] = {
    "setups": {"setups": [setup(id=f"s{k}", stations=[{"id": f"st{k}"}]) for k in range(41)]},
    "operations": setups_of(*({"kind": "face", "id": f"o{k}"} for k in range(201))),
    "holes": setups_of(
        {"kind": "drill", "id": "d", "on": {**HOLE, "at_mm": [[k, 0] for k in range(501)]}}
    ),
    "corners": engraved([[[k, 0] for k in range(501)]]),
    "lines": engraved([[[0, 0], [1, 0]]] * 201),
    "tools": {"tools": [{**TOOL, "id": f"t{k}", "number": k + 1} for k in range(401)]},
    "text": {"setups": [setup(note="x" * 501)]},
    "kept": {"setups": [setup(kept=[[f"cut.x{k}", "why"] for k in range(61)])]},
    "typed": {
        "part": {"typed": [each.model_dump() for each in (*MESH_OF_HOLES.typed, build.HOLES[0])]}
    },
}


@pytest.mark.parametrize("field", OVER)
def test_counts_have_a_stated_most(field):
    with pytest.raises(ValueError, match="at most"):
        Document.model_validate(OVER[field])
