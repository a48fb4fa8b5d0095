"""Several plans of one job: copied, named, compared; the job goes by one of them."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction
from django.db.models import F

from machining.plan.apply import apply
from machining.plan.edit import Edit
from machining.quantities.errors import quoted
from shop.accounts.models import User
from shop.base.actions import did, require
from shop.base.names import line_of_text
from shop.base.problems import Refused

from .. import documents
from ..models import Job, Plan
from .revise import begin

MOST = 40  # plans of one job
NAME, NOTE = 60, 300


def copy(user: User, plan: Plan, name: str, edits: Sequence[Edit] = ()) -> Plan:
    """Another plan of the same job, as this one is now with edits made to it. Raises Refused for a
    name that is empty or taken, EditRefused for edits that can't be done.
    """
    require(user, "plan")
    name = _name(name, plan.job)
    if Plan.objects.filter(job=plan.job_id).count() >= MOST:
        raise Refused(f"A job has at most {MOST} plans.")
    document = apply(documents.read(documents.head(plan).document), edits)
    with transaction.atomic():
        made = Plan.objects.create(job=plan.job, name=name, copied=plan)
        begin(user, made, document)
        did(user, "plan copied", f"plan:{made.pk}", job=plan.job.number, of=plan.pk, name=name)
    return made


def describe(user: User, plan: Plan, name: str | None, note: str | None) -> None:
    """Raises Refused for a name that is empty or taken."""
    require(user, "plan")
    if name is not None and name.strip() != plan.name:
        plan.name = _name(name, plan.job)
    if note is not None:
        plan.note = line_of_text("note", note.strip(), NOTE)
    with transaction.atomic():
        plan.save(update_fields=["name", "note"])
        did(user, "plan described", f"plan:{plan.pk}", name=plan.name, note=plan.note)


def choose(user: User, plan: Plan, note: str) -> None:
    """The job goes by this plan from now on; the others stay as they are. Raises Refused without a
    reason.
    """
    require(user, "plan")
    note = line_of_text("note", note.strip(), NOTE)
    if len(note) < 3:
        raise Refused("note: say why the job goes by it, in three letters or more.", "note", note)
    with transaction.atomic():
        Plan.objects.filter(pk=plan.pk).update(note=note)
        Job.objects.filter(pk=plan.job_id).update(chosen=plan, touched=F("touched") + 1)
        did(user, "plan chosen", f"plan:{plan.pk}", job=plan.job.number, name=plan.name, note=note)


def _name(name: str, job: Job) -> str:
    name = line_of_text("name", name.strip(), NAME)
    if not name:
        raise Refused("name: a plan needs a name.", "name", name)
    if Plan.objects.filter(job=job, name__iexact=name).exists():
        raise Refused(f"name: the job has a plan {quoted(name)} already.", "name", name, status=409)
    return name
