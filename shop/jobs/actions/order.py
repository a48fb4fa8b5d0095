"""An order that is searched on for, and its other schools, worked out by the worker."""

from __future__ import annotations

from machining.quantities.errors import quoted
from shop.accounts.models import User
from shop.base.actions import require
from shop.base.problems import Refused
from shop.tasks.actions.work import Report, task_kind
from shop.tasks.models import Task

from .. import documents
from ..models import Plan
from . import long

KIND = "order-further"


def start(user: User, plan: Plan, setup: str) -> Task:
    """Have the order of a setup be worked out further. Raises Refused for one that is not there."""
    require(user, "plan")
    document = documents.read(documents.head(plan).document)
    if setup not in {each.id for each in document.setups}:
        raise Refused(f"setup: the plan has no setup {quoted(setup)}.", "setup", setup)
    return long.begin(user, plan, KIND, {"setup": setup}, "order asked for")


@task_kind(KIND, long=True)
def work(task: Task, report: Report) -> None:
    long.work(task, report, {"setup": task.about["setup"]}, "The setup is looked at")
