"""Open a job with its first, empty plan."""

from __future__ import annotations

from datetime import date

from django.db import IntegrityError, transaction

from machining.plan.document import Plan as Document
from shop.accounts.models import User
from shop.base.actions import did, require
from shop.base.problems import Refused
from shop.library.snapshot import snapshot

from ..models import Job, Plan
from .revise import begin


def create(user: User, number: str, title: str, revision: str = "", due: date | None = None, remark: str = "", material: str = "", quantity: int = 1) -> Job:
    """Raises Refused for a number that is taken or empty, or a material the library doesn't have."""
    require(user, "plan")
    number, title = number.strip(), title.strip()
    if not number:
        raise Refused("number: a job needs a number.", "number", number)
    if not title:
        raise Refused("title: a job needs a title.", "title", title)
    if material and material not in snapshot().materials:
        raise Refused(f"material: the library has no {material!r}.", "material", material)
    if not 1 <= quantity <= 1_000_000:
        raise Refused(f"quantity is {quantity}; it must be from 1 to 1000000.", "quantity", quantity)
    try:
        with transaction.atomic():
            job = Job.objects.create(number=number, title=title, revision=revision.strip(), due=due, remark=remark, made_by=user)
            begin(user, Plan.objects.create(job=job), Document(material=material, quantity=quantity))
    except IntegrityError as problem:
        raise Refused(f"number: there is a job {number} already.", "number", number, status=409) from problem
    did(user, "job create", number=number)
    return job
