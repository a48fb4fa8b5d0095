"""What others would do otherwise of a whole plan, worked out by the worker."""

from __future__ import annotations

from shop.accounts.models import User
from shop.tasks.actions.work import Report, task_kind
from shop.tasks.models import Task

from ..models import Plan
from . import long

KIND = "other-ways"


def start(user: User, plan: Plan) -> Task:
    """Have each be worked out as a plan of its own."""
    return long.begin(user, plan, KIND, {}, "other ways asked for")


@task_kind(KIND, long=True)
def work(task: Task, report: Report) -> None:
    long.work(task, report, {}, "The plan is looked at")
