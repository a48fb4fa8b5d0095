"""An exported plan becomes the next revision of a plan. The library stays as it is."""

from __future__ import annotations

from dataclasses import replace
from hashlib import sha256

from machining.exchange import glb, plan_json
from machining.plan.document import LoadedTool
from machining.plan.document import Plan as Document
from machining.plan.edit import SetPart, SetStock
from machining.world.capability import carrier_of
from machining.world.geometry import to_json
from machining.world.library import Library
from machining.world.machine import Machine
from machining.world.stock.shaped import Shaped
from shop.accounts.models import User
from shop.base import blobs
from shop.base.actions import require
from shop.base.problems import Refused
from shop.library.snapshot import snapshot

from .. import documents
from ..models import Geometry, Plan, PlanRevision
from .revise import edit_document

MOST_BYTES = 20_000_000


def import_plan(user: User, plan: Plan, seen: int, text: bytes) -> PlanRevision:
    """Raises NotAPlan for a file that is none, Refused for items this library lacks or a plan
    changed meanwhile.
    """
    require(user, "plan")
    document, brought = plan_json.read(text)
    head = documents.head(plan)
    if head.number != seen:
        raise Refused(
            f"{head.by.username} changed this plan meanwhile; look at it and import again.",
            status=409,
        )
    ours = snapshot()
    held = {each.holding.item: each.holding.kind for each in document.stations if each.holding}
    missing = sorted(
        f"{held[key] if kind == 'holdings' else kind[:-1]} {key}"
        for kind, keys in plan_json.uses(document, brought).items()
        for key in keys
        if key not in getattr(ours, kind)
    )
    if missing:
        raise Refused(
            f"This library lacks what the plan uses: {', '.join(missing)}. Add it first.",
            "library",
            ", ".join(missing),
        )
    for tool in document.tools:
        _has_room(ours.machines[tool.machine], tool)
    lacking = [key for key in document.solids if key not in brought.geometries]
    if lacking:
        raise Refused("The file names a solid it doesn't hold.", "geometry", lacking[0])
    document = _with_own_solids(document, brought)
    return edit_document(
        user,
        plan,
        head,
        document,
        [SetPart(part=document.part), SetStock(stock=document.stock)],
        kind="import",
    )


def _with_own_solids(document: Document, brought: Library) -> Document:
    """The plan with its solids kept here, named by what they hold, not by what the file calls
    them.
    """
    part, stock = document.part, document.stock
    for named_there, geometry in brought.geometries.items():
        key = sha256(to_json(replace(geometry, key=""))).hexdigest()
        named = replace(geometry, key=key)
        Geometry.objects.get_or_create(
            key=key,
            defaults={
                "step": "",
                "solid": blobs.put(to_json(named)),
                "mesh": blobs.put(glb.write(named.mesh)),
                "file_name": part.file_name if part.geometry == named_there else "",
            },
        )
        if part.geometry == named_there:
            part = part.model_copy(update={"geometry": key})
        if isinstance(stock, Shaped) and stock.geometry == named_there:
            stock = stock.model_copy(update={"geometry": key})
    return document.model_copy(update={"part": part, "stock": stock})


def _has_room(machine: Machine, tool: LoadedTool) -> None:
    """Raises Refused for a carrier or a pocket that the machine lacks."""
    carrier = carrier_of(machine, tool.carrier)
    if carrier is None:
        raise Refused(
            f"T{tool.number} stands in the carrier {tool.carrier!r}; {machine.name} has"
            f" {', '.join(each.id for each in machine.carriers)}.",
            "tools",
            tool.carrier,
        )
    if tool.pocket > carrier.pockets:
        raise Refused(
            f"T{tool.number} stands in pocket {tool.pocket}; {machine.name} has {carrier.pockets}.",
            "tools",
            tool.pocket,
        )
