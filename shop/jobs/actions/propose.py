"""Proposals of whole plans, worked out by the worker."""

from __future__ import annotations

from collections.abc import Sequence

from machining.ask.abreast import hands
from machining.quantities.errors import quoted
from shop.accounts.models import User
from shop.base.actions import require
from shop.base.problems import Refused
from shop.tasks.actions.work import Report, task_kind
from shop.tasks.models import Task

from .. import documents
from ..models import Plan
from . import long

KIND = "propose"


def start(user: User, plan: Plan, machines: Sequence[str], afresh: bool) -> Task:
    """Have routes of a plan's part proposed. Raises Refused for machines that the shop has not."""
    require(user, "plan")
    known = documents.library_for(documents.read(documents.head(plan).document)).machines
    for key in machines:
        if key not in known:
            raise Refused(f"machines: the shop has no machine {quoted(key)}.", "machines", key)
    asked = {"machines": sorted(machines), "afresh": afresh}
    return long.begin(user, plan, KIND, asked, "proposals asked for")


@task_kind(KIND, long=True)
def propose(task: Task, report: Report) -> None:
    about = {
        "machines": task.about["machines"] or None,
        "afresh": task.about["afresh"],
        "hands": hands(),
    }
    long.work(task, report, about, "The part is looked at")
