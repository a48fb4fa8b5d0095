"""What the worker does: claim the oldest waiting task, run it, write down how it went."""

from __future__ import annotations

import logging
from collections.abc import Callable
from contextlib import suppress
from datetime import timedelta
from threading import Event, Thread

from django.db import DatabaseError, connection, transaction
from django.utils import timezone

from shop.base.problems import Refused

from ..models import Task

log = logging.getLogger("fabrotax.tasks")
DEAD_AFTER, BEATS_EVERY_S = timedelta(seconds=4), 1.0
MOST_TRIES = 2


class Cancelled(Exception):
    pass


Report = Callable[[float, str], None]
KINDS: dict[str, Callable[[Task, Report], None]] = {}
LONG: set[str] = set()


def task_kind(
    name: str, long: bool = False
) -> Callable[[Callable[[Task, Report], None]], Callable[[Task, Report], None]]:
    """Register what runs a kind of task. It reports (share, words), which raises Cancelled when
    asked to stop. What may take ``long`` is done beside the others, which do not wait for it.
    """

    def register(run: Callable[[Task, Report], None]) -> Callable[[Task, Report], None]:
        KINDS[name] = run
        if long:
            LONG.add(name)
        return run

    return register


def requeue_dead() -> int:
    """Tasks whose worker died go back once, then fail."""
    dead = Task.objects.filter(state="working", heartbeat__lt=timezone.now() - DEAD_AFTER)
    failed = dead.filter(tries__gte=MOST_TRIES).update(
        state="failed", message="The work stopped twice without an answer."
    )
    return failed + dead.filter(tries__lt=MOST_TRIES).update(state="waiting")


def claim(long: bool | None = None) -> Task | None:
    """The oldest that waits; only of those that may take ``long``, or that do not."""
    waiting = Task.objects.filter(state="waiting")
    if long is not None:
        waiting = waiting.filter(kind__in=LONG) if long else waiting.exclude(kind__in=LONG)
    with transaction.atomic():
        task = waiting.first()
        if task is None:
            return None
        task.state, task.tries, task.heartbeat = "working", task.tries + 1, timezone.now()
        task.save()
    return task


def run_one(long: bool | None = None) -> bool:
    """Claim and run one task; False where nothing waits."""
    requeue_dead()
    task = claim(long)
    if task is None:
        return False

    def report(share: float, words: str) -> None:
        if Task.objects.filter(pk=task.pk, cancel=True).exists():
            raise Cancelled
        Task.objects.filter(pk=task.pk).update(
            progress=share, message=words, heartbeat=timezone.now()
        )

    beating = Event()
    Thread(target=_beat, args=(task.pk, beating), daemon=True).start()
    try:
        report(0.0, "started")
        KINDS[task.kind](task, report)
        _end(task, "done", "")
    except Cancelled:
        _end(task, "cancelled", "Stopped on request.")
    except Refused as problem:
        _end(task, "failed", problem.sentence)
    except Exception:
        log.exception("task %s failed", task.pk)
        _end(task, "failed", "Something went wrong inside; the log has the details.")
    finally:
        beating.set()
    return True


def _beat(task: int, done: Event) -> None:
    """Say that the work goes on, whatever it is busy with: who stops saying so for a few seconds is
    taken for dead.
    """
    while not done.wait(BEATS_EVERY_S):
        with suppress(DatabaseError):
            Task.objects.filter(pk=task, state="working").update(heartbeat=timezone.now())
    connection.close()


def _end(task: Task, state: str, message: str) -> None:
    Task.objects.filter(pk=task.pk).update(
        state=state, message=message[:300], progress=1.0, result=task.result
    )
