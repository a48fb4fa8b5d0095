"""Questions that nobody waits for: asked by the worker, kept with what they were asked of, told as
far as they are.
"""

from __future__ import annotations

import json
from typing import Any

from django.utils import timezone

from machining.quantities.said import Shown, fill
from shop.accounts.models import User
from shop.base.actions import did, require
from shop.base.problems import Refused
from shop.tasks.actions.work import LONG, Cancelled, Report, task_kind
from shop.tasks.models import Task

from .. import documents, evaluation
from ..models import Plan
from ..reckoners import MOST_BYTES, Reckoner, Refusal, TooLarge

LONGEST_S = 300.0  # of the processor's time
LEARN = "learn"
_ready = list[Reckoner]()


def begin(user: User, plan: Plan, kind: str, more: dict[str, Any], words: str) -> Task:
    """Have a question asked of a plan as it is now; one that is under way of the same plan goes on,
    and one of the plan as it was is stopped. ``words`` are those of the record. Raises Refused.
    """
    require(user, "plan")
    head = documents.head(plan)
    about = {"plan": plan.pk, "sha": head.document_id, "draft": head.number, **more}
    going = Task.objects.filter(kind=kind, about__plan=plan.pk, cancel=False)
    task = going.filter(about=about, state__in=("waiting", "working")).first()
    if task is None:
        old = going.exclude(about__sha=head.document_id)
        old.filter(state="waiting").update(state="cancelled", message="The plan was changed.")
        old.filter(state="working").update(cancel=True)
        task = Task.objects.create(kind=kind, made_by=user, about=about)
        did(user, words, f"plan:{plan.pk}", **more)
    return task


def last(plan: Plan, kind: str, **more: Any) -> Task | None:
    """What was asked of it, and of ``more`` in it, or is being worked out, last."""
    about = {f"about__{name}": value for name, value in more.items()}
    return Task.objects.filter(kind=kind, about__plan=plan.pk, **about).order_by("-pk").first()


def stale(task: Task, plan: Plan) -> bool:
    """Was the plan changed since?"""
    return bool(task.about.get("sha") != documents.head(plan).document_id)


def expect(user: User, plan: Plan) -> None:
    """Have a process learn a plan of which something will be asked, before anybody waits for it;
    one that is learnt already, is being learnt, or can't be, is not learnt again. Raises Refused.
    """
    require(user, "plan")
    learnt, sha = Task.objects.filter(kind=LEARN), documents.head(plan).document_id
    if not learnt.filter(about__sha=sha).exclude(state="cancelled").exists():
        learnt.exclude(state="working").delete()
        Task.objects.create(kind=LEARN, made_by=user, about={"plan": plan.pk, "sha": sha})


@task_kind(LEARN, long=True)
def learn(task: Task, report: Report) -> None:
    """What a question of the plan begins with; left as soon as anything of another is asked."""

    def hear(found: Any) -> None:
        others = Task.objects.filter(state="waiting", kind__in=LONG).exclude(kind=LEARN)
        if others.exclude(about__plan=task.about["plan"]).exists():
            raise Cancelled
        report(0.0, "")

    reckoner = _fetched()
    try:
        reckoner.ask(_subject(task).asked("savings", {"most": 1}), hear)
    except Refusal:
        reckoner.end()  # who asks will be told
    except TooLarge as problem:
        raise Refused(f"It took {problem}.") from problem
    else:
        _ready.append(reckoner)


def _subject(task: Task) -> evaluation.Subject:
    """The plan as it is now, which the task says from then on."""
    plan = Plan.objects.get(pk=task.about["plan"])
    head = documents.head(plan)
    document = documents.read(head.document)
    task.about["sha"], task.about["draft"] = head.document_id, head.number
    Task.objects.filter(pk=task.pk).update(about=task.about)
    return evaluation.Subject(document, head.document_id, document.model_dump_json(), plan.pk)


def work(task: Task, report: Report, about: dict[str, Any], doing: str) -> None:
    """Ask the question of the task's kind, and keep with it what is found so far. Raises Refused
    where it can't be answered, or takes too long.
    """
    subject, share = _subject(task), 0.0

    def hear(found: Any) -> None:
        nonlocal share, doing
        if found is not None:
            share, doing = found[0], _in_words(found[1])
            task.result = found[2]
            Task.objects.filter(pk=task.pk).update(result=task.result, heartbeat=timezone.now())
        report(share, doing)

    reckoner = _fetched()
    try:
        answer = reckoner.ask(subject.asked(task.kind, about), hear)
    except Refusal as problem:
        raise Refused(problem.about["sentence"]) from problem
    except TooLarge as problem:
        raise Refused(f"It took {problem}: what was found until then stands here.") from problem
    finally:
        reckoner.end()
    task.result = json.loads(answer)


def make_ready() -> None:
    """A process for the next question, that has its beginning behind it when it is asked."""
    if not _ready:
        Task.objects.filter(kind=LEARN, state="done").delete()  # who had learnt it is gone
        _ready.append(_begun())


def _begun() -> Reckoner:
    return Reckoner(LONGEST_S, MOST_BYTES, for_long=True)


def _fetched() -> Reckoner:
    """The one that was made ready, where it is still there."""
    while _ready:
        found = _ready.pop()
        if found.process.poll() is None:
            return found
        found.end()
    return _begun()


def _in_words(said: dict[str, Any]) -> str:
    values = {name: Shown(each["value"], each["quantity"]) for name, each in said["values"].items()}
    return fill(said["text"], values)
