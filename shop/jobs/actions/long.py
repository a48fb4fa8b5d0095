"""Questions that nobody waits for: asked by the worker, kept with what they were asked of, told as
far as they are.
"""

from __future__ import annotations

import json
import time
from typing import Any

from django.db.models import QuerySet
from django.utils import timezone

from machining.quantities.said import Shown, fill
from shop.accounts.models import User
from shop.base.actions import did, require
from shop.base.problems import Refused
from shop.tasks.actions.work import LONG, Cancelled, Report
from shop.tasks.models import Task

from .. import documents, evaluation
from ..models import Plan
from ..reckoners import Overtaken, Refusal, TooLarge
from . import ready

LEAVES_S = 5.0  # in which who works on it leaves it, and keeps what it found out
UNASKED = "unasked"  # what nobody asked: somebody may


def begin(user: User, plan: Plan, kind: str, more: dict[str, Any], words: str) -> Task:
    """Have a question asked of a plan as it is now; one that is under way of the same plan goes on,
    and one of the plan as it was is stopped. ``words`` are those of the record. Raises Refused.
    """
    require(user, "plan")
    about = {**_now(plan), **more}
    of = Task.objects.filter(kind=kind, about__plan=plan.pk)
    same = of.filter(state__in=("waiting", "working"), cancel=False)
    task = same.filter(about=about).first()
    if task is None:
        task = same.filter(about={**about, UNASKED: True}).first()
        if task is None:
            _stop(of, about)
            task = Task(kind=kind)
        task.made_by, task.about = user, about
        task.save(update_fields=["made_by", "about"] if task.pk else None)
        did(user, words, f"plan:{plan.pk}", **more)
    return task


def expect(user: User, plan: Plan, kind: str) -> None:
    """Have a question worked on before anybody asks it, since somebody looks at what it is of: it
    makes way for all that is asked. The last that was answered or stopped is not begun again.
    Raises Refused.
    """
    require(user, "plan")
    about, task = _now(plan), last(plan, kind)
    made_way = task is not None and task.state == "cancelled" and not task.cancel
    if task is None or made_way or outdated(task, plan):
        of = Task.objects.filter(kind=kind, about__plan=plan.pk)
        _stop(of, about)
        of.filter(about__unasked=True).exclude(state="working").delete()
        Task.objects.create(kind=kind, made_by=user, about={**about, UNASKED: True})


def _now(plan: Plan) -> dict[str, Any]:
    """What a question of the plan is asked of."""
    head, (library, _) = documents.head(plan), documents.library_bytes()
    return {"plan": plan.pk, "sha": head.document_id, "draft": head.number, "library": library}


def _stop(of: QuerySet[Task], now: dict[str, Any]) -> None:
    """What was asked of a plan as it was, or of a shop with other tools and machines."""
    old = of.filter(cancel=False).exclude(about__sha=now["sha"], about__library=now["library"])
    old.filter(state="waiting").update(state="cancelled", message="The plan was changed.")
    old.filter(state="working").update(cancel=True)


def _is_in_the_way(task: Task) -> bool:
    """Does nobody ask for it while something waits that is asked?"""
    if not task.about.get(UNASKED):
        return False
    waits = Task.objects.filter(state="waiting", kind__in=LONG, about__unasked__isnull=True)
    return waits.exists() and Task.objects.filter(pk=task.pk, about__unasked=True).exists()


def last(plan: Plan, kind: str, **more: Any) -> Task | None:
    """What was asked of it, and of ``more`` in it, or is being worked out, last."""
    about = {f"about__{name}": value for name, value in more.items()}
    return Task.objects.filter(kind=kind, about__plan=plan.pk, **about).order_by("-pk").first()


def stale(task: Task, plan: Plan) -> bool:
    """Was the plan changed since?"""
    return bool(task.about.get("sha") != documents.head(plan).document_id)


def outdated(task: Task, plan: Plan) -> bool:
    """Was the plan, or anything that the shop has, changed since?"""
    return stale(task, plan) or bool(task.about.get("library") != documents.library_bytes()[0])


def _subject(task: Task) -> evaluation.Subject:
    """The plan as it is now, which the task says from then on."""
    plan = Plan.objects.get(pk=task.about["plan"])
    head = documents.head(plan)
    document = documents.read(head.document)
    task.refresh_from_db(fields=["about"])  # it may have been asked meanwhile
    task.about |= _now(plan)
    Task.objects.filter(pk=task.pk).update(about=task.about)
    return evaluation.Subject(document, head.document_id, document.model_dump_json(), plan.pk)


def work(task: Task, report: Report, about: dict[str, Any], doing: str) -> None:
    """Ask the question of the task's kind, and keep with it what is found so far. Raises Refused
    where it can't be answered, or takes too long, and Cancelled where it is left.
    """
    subject, share, left_at = _subject(task), 0.0, 0.0

    def hear(found: Any) -> None:
        nonlocal share, doing, left_at
        if found is not None:
            share, doing = found[0], _in_words(found[1])
            task.result = found[2]
            Task.objects.filter(pk=task.pk).update(result=task.result, heartbeat=timezone.now())
        try:
            if _is_in_the_way(task):
                raise Cancelled
            report(share, doing)
        except Cancelled:
            left_at = left_at or time.monotonic()
            if time.monotonic() - left_at > LEAVES_S:
                raise
            reckoner.leave(True)

    reckoner, knows = ready.fetched(subject.plan), True
    try:
        task.result = json.loads(reckoner.ask(subject.asked(task.kind, about), hear))
    except Refusal as problem:
        raise Refused(problem.about["sentence"]) from problem
    except Overtaken as problem:
        raise Cancelled from problem
    except Exception as problem:
        knows = False
        if isinstance(problem, TooLarge):
            until = "what was found until then stands here"
            raise Refused(f"It took {problem}: {until}.") from problem
        raise
    finally:
        if knows:
            ready.keep(subject.plan, reckoner)
        else:
            reckoner.end()


def _in_words(said: dict[str, Any]) -> str:
    values = {name: Shown(each["value"], each["quantity"]) for name, each in said["values"].items()}
    return fill(said["text"], values)
