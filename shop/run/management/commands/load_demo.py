"""The demo shop: accounts, library, jobs, one release of an earlier draft. Loading it twice changes
nothing.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass, replace
from datetime import date, timedelta
from pathlib import Path
from typing import Any

from django.contrib.auth.hashers import make_password
from django.core.management.base import BaseCommand
from django.db import transaction

import shop.demo
from machining.data import seed
from machining.exchange.plan_json import KINDS
from machining.plan.document import Plan as Draft
from machining.plan.edit import Change, Edit, SetPart
from machining.world.geometry import PartGeometry
from machining.world.machine import Machine, WorkPlace
from machining.world.settings import Settings
from machining.world.upgrades import format_of
from shop.accounts.models import User
from shop.base import blobs
from shop.demo import (
    bushing,
    clamp_block,
    float_cap,
    gland,
    hub,
    latch,
    light_frame,
    manifold,
    ring,
    small_mill,
    vane_foot,
)
from shop.demo.prices import priced
from shop.jobs import documents
from shop.jobs.actions.create import create
from shop.jobs.actions.revise import edit, edit_document
from shop.jobs.actions.upload import start
from shop.jobs.models import Job, Plan
from shop.jobs.tasks import ReadSolid, examined, take
from shop.library.actions.put import bump
from shop.library.models import Item
from shop.releases.actions.accept import accept
from shop.releases.actions.release import release
from shop.releases.review import review
from shop.tasks.models import Task

ACCOUNTS = {
    "planner": "plan-the-part",
    "approver": "read-it-twice",
    "operator": "gloves-are-on",
    "administrator": "keys-to-the-shop",
}
DEMO = Path(shop.demo.__file__).parent
SHOP = Settings(
    shop_name="Tidewrack Instruments",
    address="Harbour Row 3, Saltmere",
    units="metric",
    paper="A4",
    first_machine="heron",
    date_language="en-gb",
    person_hour=38.0,
)


@dataclass(frozen=True)
class Drawn:
    """A job whose part comes from a STEP file of the demo, due in so many days."""

    number: str
    title: str
    revision: str
    days: int
    note: str
    material: str
    quantity: int
    file: str
    draft: Callable[[PartGeometry, str], Draft]


CLAMP_BLOCK = Drawn(
    "TW-118",
    "Sensor clamp block",
    "B",
    12,
    "Repeat part; soft jaws are in drawer 7.",
    "en-aw-6082",
    48,
    "TW-118-B.step",
    clamp_block.draft,
)
DRAWN = (
    CLAMP_BLOCK,
    Drawn(
        "TW-118-2",
        "Sensor clamp block, on Dunlin",
        "B",
        19,
        "Second side on the small mill while Heron is taken.",
        "en-aw-6082",
        12,
        "TW-118-B.step",
        small_mill.draft,
    ),
    Drawn(
        "TW-241",
        "Float cap, small",
        "A",
        33,
        "In the nest of the large cap; shims are in its box.",
        "en-aw-6082",
        45,
        "TW-241-A.step",
        float_cap.draft,
    ),
    Drawn(
        "TW-276",
        "Mast foot bushing",
        "A",
        38,
        "Spigot into the mast is a sliding fit; keep jaw marks off it.",
        "en-aw-6082",
        40,
        "TW-276-A.step",
        bushing.draft,
    ),
    Drawn(
        "TW-402",
        "Anemometer hub",
        "A",
        42,
        "Arms are screwed in by the assembler.",
        "en-aw-6082",
        200,
        "TW-402-A.step",
        hub.draft,
    ),
    Drawn(
        "TW-520",
        "Bulkhead gland",
        "A",
        63,
        "Bar work; catcher lined with felt.",
        "x5crnimo17-12-2",
        500,
        "TW-520-A.step",
        gland.draft,
    ),
)
TYPED = (
    (
        "TW-204",
        "Mooring latch plate",
        "A",
        21,
        "Eight at a time; the short vises are on shelf 4.",
        latch.draft,
    ),
    (
        "TW-226",
        "Vane foot plate",
        "A",
        28,
        "On the pallet in the vise; screws through its own holes for the outside.",
        vane_foot.draft,
    ),
    (
        "TW-233",
        "Light sensor frame",
        "A",
        49,
        "Thin bar between the windows: ask before you change the order.",
        light_frame.draft,
    ),
    ("TW-311", "Manifold block", "C", 35, "24 on the tombstone, sides by index.", manifold.draft),
    ("TW-455", "Gimbal ring", "B", 56, "Five sides in one vise.", ring.draft),
)


SINCE_MEASURED_DAYS = 40


class Command(BaseCommand):
    help = "Loads the made-up shop."

    def handle(self, *args: Any, **options: Any) -> None:
        # the slow things beside each other: readers of solids, hashes of passwords
        with ThreadPoolExecutor(4) as pool:
            jobs = [
                (each, pool.submit(_examined, each.file))
                for each in DRAWN
                if not Job.objects.filter(number=each.number).exists()
            ]
            hashes = {
                name: pool.submit(make_password, password)
                for name, password in ACCOUNTS.items()
                if not User.objects.filter(username=name).exists()
            }
            users = {name: _user(name, hashes) for name in ACCOUNTS}
            _library(users["planner"])
            for each, found in jobs:
                plan = _from_file(users["planner"], each, found.result())
                if each is CLAMP_BLOCK:
                    _released_once(users, plan)
            for number, title, revision, days, note, draft in TYPED:
                if not Job.objects.filter(number=number).exists():
                    _typed(users["planner"], number, title, revision, days, note, draft())
        self.stdout.write("The demo shop is loaded.")


def _user(name: str, hashes: dict[str, Future[str]]) -> User:
    if name in hashes:
        return User.objects.create(username=name, role=name, password=hashes[name].result())
    return User.objects.get(username=name)


def _examined(name: str) -> ReadSolid:
    return examined(blobs.put((DEMO / name).read_bytes()), None, lambda share, words: None)


def _library(user: User) -> None:
    if Item.objects.exists():
        return
    new = seed()
    library = replace(new, machines=_measured(new.machines), materials=priced(new.materials))
    with transaction.atomic():
        for kind in KINDS:
            Item.objects.bulk_create(
                Item(
                    kind=kind,
                    key=key,
                    format=format_of(kind),
                    data=record.model_dump(mode="json"),
                    changed_by=user,
                )
                for key, record in getattr(library, kind).items()
            )
        Item.objects.create(
            kind="settings",
            key="shop",
            format=format_of("settings"),
            data=SHOP.model_dump(mode="json"),
            changed_by=user,
        )
        bump()


def _measured(machines: Mapping[str, Machine]) -> dict[str, Machine]:
    """Their centres of rotation, measured some weeks ago."""
    day = date.today() - timedelta(days=SINCE_MEASURED_DAYS)

    def known(place: WorkPlace) -> WorkPlace:
        axes = tuple(each.model_copy(update={"centre_on": day}) for each in place.rotaries)
        return place.model_copy(update={"rotaries": axes})

    return {
        key: each.model_copy(update={"places": tuple(map(known, each.places))})
        for key, each in machines.items()
    }


def _now(user: User, plan: Plan, *edits: Edit) -> None:
    edit(user, plan, documents.head(plan).number, edits)


def _read(planner: User, plan: Plan, name: str, found: ReadSolid) -> None:
    """Take in a STEP file of the demo, without waiting for a worker."""
    task = start(planner, plan, blobs.put((DEMO / name).read_bytes()), name, None)
    take(task, found)
    Task.objects.filter(pk=task.pk).update(state="done", progress=1.0, result=task.result)


def _from_file(planner: User, of: Drawn, found: ReadSolid) -> Plan:
    """A job whose part is read from a file, with its plan."""
    due = date.today() + timedelta(days=of.days)
    job = create(planner, of.number, of.title, of.revision, due, of.note, of.material, of.quantity)
    plan = job.plans.get()
    _read(planner, plan, of.file, found)
    head = documents.head(plan)
    key = documents.read(head.document).part.geometry
    whole = of.draft(documents.geometry(key), key)
    edit_document(planner, plan, head, whole, [SetPart(part=whole.part)])
    return plan


def _typed(
    planner: User, number: str, title: str, revision: str, days: int, note: str, whole: Draft
) -> None:
    """A job whose part is typed, with its plan."""
    due = date.today() + timedelta(days=days)
    job = create(planner, number, title, revision, due, note, whole.material, whole.quantity)
    plan = job.plans.get()
    edit_document(planner, plan, documents.head(plan), whole, [SetPart(part=whole.part)])


def _released_once(users: dict[str, User], plan: Plan) -> None:
    """The clamp block as it was before its current draft."""
    planner, approver = users["planner"], users["approver"]
    _now(planner, plan, Change(on="tool:t6", fields={"stick_out_mm": 30.0}))
    for finding in review(approver, plan).findings:
        if finding["severity"] == "look" and not finding["kept"]:
            accept(
                approver,
                plan,
                finding["key"],
                "First blank of a bar: measure it, over 102.5 run operation 20 at 70 %.",
                None,
            )
    # the worker draws its sheets
    release(approver, plan, documents.head(plan).number, "first release")
    _now(planner, plan, Change(on="tool:t6", fields={"stick_out_mm": 18.0}))
    _now(planner, plan, Change(on="operation:a30", fields={"step_over_mm": 3.0}))
