"""Proposals of whole plans: worked out by the worker, kept with what they were asked of."""

from __future__ import annotations

import json
from collections.abc import Sequence
from typing import Any

from django.utils import timezone

from machining.quantities.errors import quoted
from machining.quantities.said import Shown, fill
from shop.accounts.models import User
from shop.base.actions import did, require
from shop.base.problems import Refused
from shop.tasks.actions.work import Report, task_kind
from shop.tasks.models import Task

from .. import documents, evaluation
from ..models import Plan
from ..reckoners import MOST_BYTES, Reckoner, Refusal, TooLarge

KIND = "propose"
LONGEST_S = 300.0  # of the processor's time


def start(user: User, plan: Plan, machines: Sequence[str], afresh: bool) -> Task:
    """Have routes of a plan's part proposed; one that is worked out already of the same plan is
    gone on with. Raises Refused for machines that the shop has not.
    """
    require(user, "plan")
    head = documents.head(plan)
    document = documents.read(head.document)
    known = documents.library_for(document).machines
    for key in machines:
        if key not in known:
            raise Refused(f"machines: the shop has no machine {quoted(key)}.", "machines", key)
    about = {
        "plan": plan.pk,
        "sha": head.document_id,
        "draft": head.number,
        "machines": sorted(machines),
        "afresh": afresh,
    }
    going = Task.objects.filter(kind=KIND, about=about, state__in=("waiting", "working"))
    task = going.filter(cancel=False).first()
    if task is None:
        task = Task.objects.create(kind=KIND, made_by=user, about=about)
        did(user, "proposals asked for", f"plan:{plan.pk}", machines=list(machines))
    return task


def last(plan: Plan) -> Task | None:
    """What was proposed, or is being worked out, last."""
    return Task.objects.filter(kind=KIND, about__plan=plan.pk).order_by("-pk").first()


@task_kind(KIND, long=True)
def propose(task: Task, report: Report) -> None:
    plan = Plan.objects.get(pk=task.about["plan"])
    head = documents.head(plan)
    document = documents.read(head.document)
    task.about["sha"], task.about["draft"] = head.document_id, head.number
    Task.objects.filter(pk=task.pk).update(about=task.about)
    subject = evaluation.Subject(document, head.document_id, document.model_dump_json(), plan.pk)

    share, doing = 0.0, "The part is looked at"

    def hear(found: Any) -> None:
        nonlocal share, doing
        if found is not None:
            share, doing = found[0], _in_words(found[1])
            task.result = found[2]
            Task.objects.filter(pk=task.pk).update(result=task.result, heartbeat=timezone.now())
        report(share, doing)

    reckoner = Reckoner(LONGEST_S, MOST_BYTES)
    try:
        about = {"machines": task.about["machines"] or None, "afresh": task.about["afresh"]}
        answer = reckoner.ask(subject.asked(KIND, about), hear)
    except Refusal as problem:
        raise Refused(problem.about["sentence"]) from problem
    except TooLarge as problem:
        raise Refused(f"It took {problem}: what was proposed until then stands here.") from problem
    finally:
        reckoner.end()
    task.result = json.loads(answer)


def _in_words(said: dict[str, Any]) -> str:
    values = {name: Shown(each["value"], each["quantity"]) for name, each in said["values"].items()}
    return fill(said["text"], values)
