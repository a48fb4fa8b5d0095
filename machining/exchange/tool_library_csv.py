"""Tools of a library as CSV: a line a tool, columns by the property symbols of ISO 13399 where it
has one.

Reading compares with what is known and says, line by line, what would change or what is wrong;
nothing is taken by halves.
"""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from pydantic import ValidationError

from machining.plan.refusal import first_problem
from machining.quantities.entry import parse
from machining.quantities.errors import MachiningError, NotUnderstood, quoted
from machining.world.tool import Tool

from .cells import guarded, separator_of, unguarded

# symbol (or our own name, where the standard has none) -> field, quantity ("" = text, "yes-no",
# "count")
COLUMNS: dict[str, tuple[str, str]] = {
    "key": ("key", ""),
    "name": ("name", ""),
    "kind": ("kind", ""),
    "DC": ("diameter_mm", "length"),
    "RE": ("corner_radius_mm", "length"),
    "ZEFP": ("flutes", "count"),
    "LCF": ("flute_length_mm", "length"),
    "LU": ("usable_length_mm", "length"),
    "DN": ("neck_diameter_mm", "length"),
    "DMM": ("shank_diameter_mm", "length"),
    "OAL": ("overall_length_mm", "length"),
    "SIG": ("point_angle_deg", "angle"),
    "included_angle": ("included_angle_deg", "angle"),
    "tip_diameter": ("tip_diameter_mm", "length"),
    "KAPR": ("edge_angle_deg", "angle"),
    "FHA": ("helix_deg", "angle"),
    "TP": ("pitch_mm", "length"),
    "APMX": ("max_depth_mm", "length"),
    "CW": ("insert_width_mm", "length"),
    "thread_rows": ("rows", "count"),
    "HAND": ("hand", ""),
    "material": ("material", ""),
    "coating": ("coating", ""),
    "CCC": ("centre_cutting", "yes-no"),
    "RMPX": ("max_ramp_deg", "angle"),
    "RPMX": ("max_rpm", "spindle_speed"),
    "max_chip": ("max_chip_mm", "length"),
    "edge_radius": ("edge_radius_mm", "length"),
    "edge_life_min": ("edge_life_min", "count"),
    "cost": ("cost", "count"),
    "insert_edges": ("insert_edges", "count"),
    "insert_cost": ("insert_cost", "count"),
    "inserts_on_hand": ("inserts_on_hand", "count"),
    "on_hand": ("on_hand", "count"),
    "order_days": ("order_days", "count"),
    "note": ("note", ""),
}
UNITS = {"length": "mm", "angle": "deg", "spindle_speed": "rpm"}
MOST_LINES = 5000
_WHOLE = frozenset({"flutes", "rows", "insert_edges", "inserts_on_hand", "on_hand", "order_days"})


@dataclass(frozen=True, slots=True)
class Line:
    """What one line would do: new, changed or same, with each field's value before and after; or
    its problem.
    """

    number: int
    key: str
    name: str
    does: str
    changes: tuple[tuple[str, Any, Any], ...] = ()
    problem: str = ""
    field: str = ""
    tool: Tool | None = None


class NotATable(MachiningError):
    """The file is no table of tools."""

    def __init__(self, sentence: str) -> None:
        super().__init__("file", "unreadable", "a table of tools")
        self.args = (sentence,)


def write(tools: Mapping[str, Tool]) -> str:
    """Every tool, in order of its key; empty cells for what a tool does not have."""
    text = io.StringIO()
    rows = csv.writer(text, lineterminator="\n")
    rows.writerow(
        [
            f"{symbol}_{UNITS[quantity]}" if quantity in UNITS else symbol
            for symbol, (_, quantity) in COLUMNS.items()
        ]
    )
    for key in sorted(tools):
        rows.writerow(
            [_cell(getattr(tools[key], field), quantity) for field, quantity in COLUMNS.values()]
        )
    return text.getvalue()


def _cell(value: Any, quantity: str) -> str:
    if value is None:
        return ""
    if quantity == "yes-no":
        return "yes" if value else "no"
    return f"{value:g}" if isinstance(value, float) else guarded(str(value))


def read(content: bytes, known: Mapping[str, Tool]) -> list[Line]:
    """What each line would do. A column left out keeps what is known of a tool; an empty cell
    empties it.

    Raises NotATable for what is no table of tools, naming what is missing.
    """
    try:
        text = content.decode("utf-8-sig").replace("\r\n", "\n").replace("\r", "\n")
    except UnicodeDecodeError:
        raise NotATable("The file is no text in UTF-8.") from None
    first = text.splitlines()[0] if text.strip() else ""
    separator = separator_of(first)
    try:
        rows = list(csv.reader(io.StringIO(text), delimiter=separator))
    except csv.Error as problem:
        raise NotATable(f"The file is no table: {problem}.") from None
    if not rows or not first.strip():
        raise NotATable("The file is empty.")
    if len(rows) > MOST_LINES:
        raise NotATable(f"The file has {len(rows)} lines; up to {MOST_LINES} can be read.")
    heads = [_head(cell) for cell in rows[0]]
    if "key" not in {head[0] for head in heads if head}:
        raise NotATable("There is no column 'key'; every tool needs one.")
    unknown = [
        cell for cell, head in zip(rows[0], heads, strict=True) if head is None and cell.strip()
    ]
    if unknown:
        raise NotATable(
            f"The column {quoted(unknown[0].strip())} is not known; known are {', '.join(COLUMNS)}."
        )
    seen: dict[str, int] = {}
    return [
        _line(number, row, heads, known, seen, separator == ";")
        for number, row in enumerate(rows[1:], 2)
        if any(cell.strip() for cell in row)
    ]


def _head(cell: str) -> tuple[str, str, str | None] | None:
    """Field, quantity and unit of a column from its heading: ``DC``, ``DC_mm``, ``DC [in]``."""
    found = re.match(r"^\s*([A-Za-z_]+?)\s*(?:[_ \[(]+(mm|inch|in|deg|rpm)[\])]?)?\s*$", cell)
    if not found:
        return None
    wanted = found[1].rstrip("_").casefold()
    for symbol, (field, quantity) in COLUMNS.items():
        if wanted in (symbol.casefold(), field.casefold(), field.rsplit("_", 1)[0].casefold()):
            return field, quantity, found[2]
    return None


def _line(
    number: int,
    row: list[str],
    heads: list[tuple[str, str, str | None] | None],
    known: Mapping[str, Tool],
    seen: dict[str, int],
    comma: bool,
) -> Line:
    given: dict[str, Any] = {}
    key = next(
        (cell.strip() for cell, head in zip(row, heads, strict=False) if head and head[0] == "key"),
        "",
    )
    try:
        if len(row) > len(heads):
            raise NotUnderstood("line", f"{len(row)} cells", f"{len(heads)}, as many as headings")
        for cell, head in zip(row, heads, strict=False):
            if head is not None:
                given[head[0]] = _value(head, cell.strip(), comma)
        if not key:
            raise NotUnderstood("key", "", "a key of small letters, digits and dashes")
        if key in seen:
            raise NotUnderstood("key", key, f"a key of its own; line {seen[key]} has it too")
        seen[key] = number
        before = known.get(key)
        tool = _tool(given, before)
    except MachiningError as problem:
        name, field = str(given.get("name") or key), problem.field
        return Line(number, key, name, "wrong", problem=str(problem), field=field)
    except ValidationError as problem:
        name, (field, _, sentence) = str(given.get("name") or key), first_problem(problem)
        return Line(number, key, name, "wrong", problem=sentence, field=field)
    return _compared(number, tool, before)


def _tool(given: dict[str, Any], before: Tool | None) -> Tool:
    """A tool as its line gives it; what a line leaves out stays as it was."""
    merged = before.model_dump() if before else {}
    merged |= {
        field: value
        for field, value in given.items()
        if value is not None or before or _optional(field)
    }
    return Tool(
        **{field: value for field, value in merged.items() if value is not None or _optional(field)}
    )


def _compared(number: int, tool: Tool, before: Tool | None) -> Line:
    old = before.model_dump() if before else {}
    changes = tuple(
        (field, old.get(field), value)
        for field, value in tool.model_dump().items()
        if field != "key" and (before is None or old[field] != value)
    )
    return Line(
        number,
        tool.key,
        tool.name,
        "new" if before is None else "changed" if changes else "same",
        changes if before else (),
        tool=tool,
    )


def _optional(field: str) -> bool:
    return Tool.model_fields[field].default is None


def _value(head: tuple[str, str, str | None], cell: str, comma: bool) -> Any:
    field, quantity, unit = head
    if cell == "":
        return None if quantity else ("" if field in ("note", "coating") else None)
    if quantity == "":
        return unguarded(cell)
    if quantity == "yes-no":
        if cell.casefold() not in ("yes", "no", "true", "false", "1", "0"):
            raise NotUnderstood(field, cell, "yes or no")
        return cell.casefold() in ("yes", "true", "1")
    text = cell.replace(",", ".") if comma else cell
    value = parse(
        text,
        quantity,
        field=field,
        unit={"inch": "in"}.get(unit or "", unit) if quantity != "count" else None,
    ).value
    if field in _WHOLE:
        if value != int(value):
            raise NotUnderstood(field, cell, "a whole number")
        return int(value)
    return value
