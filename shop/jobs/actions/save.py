"""All that would save time, worked out by the worker."""

from __future__ import annotations

from machining.ask.abreast import hands
from shop.accounts.models import User
from shop.tasks.actions.work import Report, task_kind
from shop.tasks.models import Task

from ..models import Plan
from . import long

KIND = "savings"


def start(user: User, plan: Plan) -> Task:
    """Have all be tried that might shorten a plan's batch."""
    return long.begin(user, plan, KIND, {}, "savings asked for")


def expect(user: User, plan: Plan) -> None:
    """Have all be tried since somebody looks at what might be."""
    long.expect(user, plan, KIND)


@task_kind(KIND, long=True)
def save(task: Task, report: Report) -> None:
    long.work(task, report, {"hands": hands()}, "The plan is looked at")
