"""No function over 50 lines and no file over 400, but for a reason that is written there (``long:``
and why).
"""

from __future__ import annotations

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parent.parent.parent
MOST_IN_A_FUNCTION, MOST_IN_A_FILE, REASON = 50, 400, "# long: "


def too_long(text: str) -> Iterator[str]:
    lines = text.splitlines()
    if len(lines) > MOST_IN_A_FILE and not any(each.startswith(REASON) for each in lines):
        yield f"{len(lines)} lines"
    for each in ast.walk(ast.parse(text)):
        if isinstance(each, ast.FunctionDef | ast.AsyncFunctionDef):
            body = lines[each.lineno - 1 : each.end_lineno]
            if len(body) > MOST_IN_A_FUNCTION and not any(REASON in line for line in body):
                yield f"{each.name}: {len(body)} lines"


FILES = [
    path
    for folder in ("machining", "shop", "tools", "tests")
    for path in sorted((ROOT / folder).rglob("*.py"))
    if "migrations" not in path.parts
]


def test_nothing_is_longer_than_it_is_read_at_once():
    found = {str(path.relative_to(ROOT)): list(too_long(path.read_text())) for path in FILES}
    assert len(found) > 400
    assert {path: what for path, what in found.items() if what} == {}


def test_regions_are_indexed_in_one_place():
    """What two threads share is not safe with an index (`regions.asked_often`)."""
    core = [path for path in FILES if path.is_relative_to(ROOT / "machining")]
    names = r"\b(prepare|prep)\("
    assert [path.name for path in core if re.search(names, path.read_text())] == ["regions.py"]


@pytest.mark.parametrize(
    ("text", "found"),
    [
        ("x = 1\n" * 401, ["401 lines"]),
        ("# long: a table\n" + "x = 1\n" * 401, []),
        ("def f():\n" + "    x = 1\n" * 50, ["f: 51 lines"]),
        ("def f():\n    # long: a record\n" + "    x = 1\n" * 50, []),
        ("def f():\n" + "    x = 1\n" * 49, []),
    ],
)
def test_what_is_long_is_found(text, found):
    assert list(too_long(text)) == found
