"""What is wrong with a value, in a sentence: field, value, and what it must be."""

from __future__ import annotations

import re
from typing import Any

from pydantic import ValidationError

from machining.quantities.errors import quoted
from machining.world.record import WRITTEN_LIKE

from .holding import HOLDINGS
from .operation import KINDS

PLAINER = (
    ("Input should be", "it must be"),
    ("Field required", "it is missing"),
    ("Extra inputs are not permitted", "there is no such field"),
    ("greater than or equal to", "at least"),
    ("less than or equal to", "at most"),
    ("greater than", "over"),
    ("less than", "under"),
    ("Tuple should have", "it must have"),
    ("String should have", "it must have"),
)


def first_problem(problem: ValidationError) -> tuple[str, object, str]:
    """Field, value and a sentence from a validation error's first line."""
    row = problem.errors(include_url=False)[0]
    places = [
        str(part)
        for before, part in zip(("", *row["loc"]), row["loc"], strict=False)
        if not _is_tag(before, part)
    ]
    field, value = ".".join(places), row["input"]
    words = plainly(row)
    if row["type"] == "value_error":
        return field or words.split(" ", 1)[0], value, words[0].upper() + words[1:] + "."
    shown = f" is {quoted(value)}" if isinstance(value, (int, float, str)) else ""
    return field, value, f"{_spoken(places)}{shown}: {words[0].lower() + words[1:]}."


def plainly(row: Any) -> str:
    """What a line of a validation error says, in plain words."""
    words: str = row["msg"].removeprefix("Value error, ")
    if row["type"] == "string_pattern_mismatch":
        return f"it must be {WRITTEN_LIKE.get(row['ctx']['pattern'], 'written otherwise')}"
    if row["type"] == "union_tag_invalid":
        return (
            f"its {str(row['ctx']['discriminator']).strip(chr(39))} must be one of"
            f" {row['ctx']['expected_tags'].replace(chr(39), '')}"
        )
    for theirs, ours in PLAINER:
        words = words.replace(theirs, ours)
    return words


def _is_tag(before: object, part: object) -> bool:
    """Is this place the name of a union's branch rather than a field?"""
    return isinstance(part, str) and (
        part[:1].isupper()
        or part in KINDS
        or before == "on"
        or (before in ("", "holding") and part in HOLDINGS)
    )


def _spoken(places: list[str]) -> str:
    """``step_down_mm`` is Step down."""
    bare = (
        re.sub(r"_(mm|deg|nm|mm_min|s|kw)$", "", places[-1]).replace("_", " ") if places else "it"
    )
    return bare[0].upper() + bare[1:]
