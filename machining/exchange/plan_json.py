"""A plan with all it refers to as one JSON text: written and read, so that nothing else is needed
to evaluate it.

The layout is described in ``docs/plan-format.md``.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from typing import Any

from pydantic import TypeAdapter, ValidationError

from machining.plan.document import Plan
from machining.plan.refusal import first_problem
from machining.plan.upgrades import up_to_date
from machining.quantities.errors import MachiningError, brief, quoted
from machining.world.clamping import Clamping
from machining.world.geometry import PartGeometry, from_json, to_json
from machining.world.library import Library
from machining.world.machine import Machine
from machining.world.material import Material
from machining.world.settings import Settings
from machining.world.tool import Assembly, Holder, Tool
from machining.world.upgrades import format_of, item_up_to_date
from machining.world.workholding import Workholding

NAME, VERSION = "fabrotax-plan", 3
# what reads the items of each of the library's tables
KINDS: dict[str, TypeAdapter[Any]] = {
    "materials": TypeAdapter(Material),
    "tools": TypeAdapter(Tool),
    "holders": TypeAdapter(Holder),
    "assemblies": TypeAdapter(Assembly),
    "machines": TypeAdapter(Machine),
    "holdings": TypeAdapter(Workholding),
    "clamps": TypeAdapter(Clamping),
}


HOLDINGS_OF_1 = ("vises", "chucks")  # a table each, in files of version 1


class NotAPlan(MachiningError):
    """A text that is no exported plan; the sentence names the place."""

    def __init__(self, sentence: str) -> None:
        super().__init__("plan file", "", "")
        self.args = (sentence,)


def uses(plan: Plan, library: Library) -> dict[str, set[str]]:
    """Kind -> keys of the library items a plan stands on, assemblies with their tools
    and holders.
    """
    assemblies = {t.assembly for t in plan.tools}
    holdings = [each.holding for each in plan.stations if each.holding]
    known = [library.assemblies[key] for key in assemblies if key in library.assemblies]
    return {
        "materials": {plan.material} - {""},
        "assemblies": assemblies,
        "tools": {a.tool for a in known},
        "holders": {a.holder for a in known},
        "machines": {s.machine for s in plan.setups} | {t.machine for t in plan.tools},
        "holdings": {key for held in holdings for key in held.items},
        "clamps": {key for held in holdings for key in held.gear},
    }


def write(plan: Plan, library: Library) -> bytes:
    """The self-contained export: sorted, so equal plans give equal texts.

    The whole library goes with it, not only what is used: what a finding offers as a fix comes from
    the rest.
    """
    return json.dumps(
        {
            "format": NAME,
            "version": VERSION,
            "plan": plan.model_dump(mode="json"),
            "library": {
                kind: {
                    key: item.model_dump(mode="json")
                    for key, item in getattr(library, kind).items()
                }
                for kind in KINDS
            },
            "formats": {kind: format_of(kind) for kind in (*KINDS, "settings")},
            "settings": library.settings.model_dump(mode="json"),
            "geometries": [
                json.loads(to_json(library.geometries[key]))
                for key in plan.solids
                if key in library.geometries
            ],
        },
        indent=1,
        sort_keys=True,
        ensure_ascii=False,
        allow_nan=False,
    ).encode()


def read(text: bytes) -> tuple[Plan, Library]:
    """Plan and library of an export. Raises NotAPlan with a sentence that names the place."""
    try:
        raw = json.loads(text)
    except RecursionError as problem:
        raise NotAPlan("The file is nested too deeply to be a plan.") from problem
    except ValueError as problem:
        raise NotAPlan(f"The file is no JSON: {brief(str(problem))}.") from problem
    if not isinstance(raw, dict) or raw.get("format") != NAME:
        raise NotAPlan(f"The file is no plan: its 'format' must be {NAME!r}.")
    if raw.get("version") not in range(1, VERSION + 1):
        raise NotAPlan(
            f"The file has version {quoted(raw.get('version'))}; this program reads versions 1 to"
            f" {VERSION}."
        )
    try:
        plan = Plan.model_validate(up_to_date(raw.get("plan")))
        formats: Any = raw.get("formats", {})
        formats = formats if isinstance(formats, dict) else {}
        items: dict[str, Any] = {
            kind: {
                key: adapter.validate_python(item_up_to_date(kind, formats.get(kind, 1), item))
                for key, item in _table(raw, kind).items()
            }
            for kind, adapter in KINDS.items()
        }
        library = Library(
            **items,
            settings=Settings.model_validate(
                item_up_to_date("settings", formats.get("settings", 1), raw.get("settings", {}))
            ),
            geometries=_geometries(raw),
        )
    except ValidationError as problem:
        raise NotAPlan(f"The plan can't be read. {first_problem(problem)[2]}") from problem
    except RecursionError as problem:
        raise NotAPlan("The file is nested too deeply to be a plan.") from problem
    return plan, library


def _table(raw: Mapping[str, Any], kind: str) -> Mapping[str, Any]:
    library = raw.get("library", {})
    tables = [library.get(kind, {})] if isinstance(library, dict) else [None]
    if kind == "holdings" and raw["version"] == 1 and isinstance(library, dict):
        tables = [library.get(name, {}) for name in HOLDINGS_OF_1]
    found: dict[str, Any] = {}
    for table in tables:
        if not isinstance(table, dict):
            raise NotAPlan(f"The plan can't be read: library.{kind} must map keys to items.")
        found |= table
    return found


def _geometries(raw: Mapping[str, Any]) -> dict[str, PartGeometry]:
    told = raw.get("geometries", [])
    if raw["version"] < 3:  # one, of the part
        told = [] if raw.get("geometry") is None else [raw["geometry"]]
    if not isinstance(told, list):
        raise NotAPlan("The plan can't be read: geometries must be a list.")
    try:
        found = [from_json(json.dumps(each).encode()) for each in told]
    except MachiningError as problem:
        raise NotAPlan(f"The plan can't be read: its geometry is damaged ({problem})") from problem
    return {geometry.key: geometry for geometry in found}
