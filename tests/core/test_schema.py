"""The plan's published schema is the plan's."""

from __future__ import annotations

import json
from pathlib import Path

from machining.plan.document import Plan

FILE = Path(__file__).parent.parent.parent / "docs" / "plan.schema.json"


def test_the_published_schema_is_fresh():
    """Made anew by: python -m machining.cli schema > docs/plan.schema.json"""
    assert json.loads(FILE.read_text()) == Plan.model_json_schema()
