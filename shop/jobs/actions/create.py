"""Open a job with its first, empty plan."""

from __future__ import annotations

from datetime import date

from django.db import IntegrityError, transaction

from machining.plan.document import Plan as Document
from machining.quantities.errors import quoted
from shop.accounts.models import User
from shop.base.actions import did, require
from shop.base.names import job_number, line_of_text
from shop.base.problems import Refused
from shop.library.snapshot import snapshot

from ..models import Job, Plan
from .revise import begin


def create(
    user: User,
    number: str,
    title: str,
    revision: str = "",
    due: date | None = None,
    remark: str = "",
    material: str = "",
    quantity: int = 1,
) -> Job:
    """Raises Refused for a number that is taken or empty, or a material the library
    doesn't have.
    """
    require(user, "plan")
    number, title = job_number(number), title.strip()
    for field, value, most in (
        ("title", title, 120),
        ("revision", revision.strip(), 10),
        ("remark", remark, 500),
    ):
        line_of_text(field, value, most)
    if not title:
        raise Refused("title: a job needs a title.", "title", title)
    if material and material not in snapshot().materials:
        raise Refused(f"material: the library has no {quoted(material)}.", "material", material)
    if not 1 <= quantity <= 1_000_000:
        raise Refused(
            f"quantity is {quantity}; it must be from 1 to 1000000.", "quantity", quantity
        )
    try:
        with transaction.atomic():
            job = Job.objects.create(
                number=number,
                title=title,
                revision=revision.strip(),
                due=due,
                remark=remark,
                made_by=user,
            )
            begin(
                user, Plan.objects.create(job=job), Document(material=material, quantity=quantity)
            )
            did(user, "job made", f"job:{number}")
    except IntegrityError as problem:
        raise Refused(
            f"number: there is a job {number} already.", "number", number, status=409
        ) from problem
    return job
