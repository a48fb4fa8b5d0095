"""Questions about plans: answered by processes of their own, remembered where the answer is that it
is too large.
"""

from __future__ import annotations

import json
from concurrent.futures import TimeoutError
from contextlib import suppress
from dataclasses import dataclass
from functools import lru_cache
from threading import BoundedSemaphore
from typing import Any

from django.db import DatabaseError

from machining.evaluation import ENGINE, Evaluation, to_plain
from machining.plan.document import Plan as Document
from shop.base.problems import Refused

from . import documents
from .models import Answer, PlanDocument
from .reckoners import Asked, Busy, Overtaken, Reckoners, Refusal, TooLarge

PATIENCE_S = 0.5  # of a request that may as well ask again
# requests that may wait longer: the others are told to ask again, so that the server always has
# hands free
MOST_WAITING = 5
TOO_LARGE = (
    "This plan is too large to work out here: it took {why}. Take some of its operations, holes or"
    " passes out, or make its steps larger."
)
reckoners = Reckoners()
_patient = BoundedSemaphore(MOST_WAITING)


class Working(Refused):
    """The answer is not there yet; whoever asked asks again."""

    def __init__(self) -> None:
        super().__init__(
            "The plan is still being worked out; ask again in a moment.", status=503, working=True
        )


@dataclass(frozen=True)
class Subject:
    """A plan document as it is asked about, with another one ``beside`` it. ``plan`` is its row's
    number, 0 for one that isn't stored.
    """

    document: Document
    sha: str
    text: str
    plan: int = 0
    beside: Document | None = None

    def asked(self, name: str, about: dict[str, Any]) -> Asked:
        key, library = documents.library_bytes()
        needed = {
            each for of in (self.document, self.beside) if of is not None for each in of.solids
        }
        solids = {each: documents.solid_bytes(each) for each in sorted(needed)}
        return Asked(
            name,
            self.sha,
            self.text,
            key,
            library,
            {each: found for each, found in solids.items() if found is not None},
            about,
            self.plan,
        )


def ask(
    subject: Subject, name: str, patient: bool = True, missing: int = 422, **about: Any
) -> bytes:
    """The answer; ``missing`` is the status where it asks about what isn't there.

    Raises Working where it is not there in a moment (or, asked patiently, in the time one plan
    has), Refused otherwise.
    """
    if (
        row := Answer.objects.filter(document_id=subject.sha, engine=ENGINE, too_large=True).first()
    ) is not None:
        raise Refused(row.problem)
    try:
        future = reckoners.ask(subject.asked(name, about))
        try:
            return future.result(PATIENCE_S)
        except TimeoutError:
            if not patient or not _patient.acquire(blocking=False):
                raise Working from None
        try:
            return future.result()
        finally:
            _patient.release()
    except (Busy, Overtaken):
        raise Working from None
    except Refusal as problem:
        more = {"index": problem.about["index"]} if problem.about["index"] is not None else {}
        raise Refused(
            problem.about["sentence"],
            problem.about["field"],
            problem.about["value"],
            status=missing if problem.about["missing"] else 422,
            **more,
        ) from None
    except TooLarge as problem:
        raise Refused(_remember_large(subject, name, str(problem))) from None
    except RuntimeError:
        raise Refused(
            "It could not be worked out; the log says where it stopped.", status=500
        ) from None


def answer(subject: Subject, patient: bool = True, since: str = "") -> dict[str, bytes]:
    """Features of the part and evaluation, as JSON texts. What is too large is answered by a
    problem. ``since`` names the plan before an edit: then it is answered in a moment, though some
    operations may still be *working*.
    """
    try:
        found = (
            ask(subject, "answer", patient, since=since)
            if since
            else ask(subject, "answer", patient)
        )
    except Working:
        raise
    except Refused as problem:
        return {"features": b"[]", "evaluation": _problem(problem.sentence)}
    short, _, rest = found.removeprefix(b'{"short":').partition(b',"features":')
    features, _, evaluation = rest.partition(b',"evaluation":')
    _remember(subject.sha, json.loads(short))
    return {"features": features, "evaluation": evaluation[:-1]}


def in_time(subject: Subject, since: str = "") -> dict[str, bytes] | None:
    """The same, or None while it is still being worked out."""
    try:
        return answer(subject, patient=False, since=since)
    except Working:
        return None


def plain(subject: Subject, patient: bool = True) -> dict[str, Any]:
    """The evaluation as plain values. Raises Working."""
    return json.loads(answer(subject, patient)["evaluation"])  # type: ignore[no-any-return]


@lru_cache(maxsize=8)
def _problem(sentence: str) -> bytes:
    return json.dumps(
        to_plain(Evaluation(problem=sentence)), separators=(",", ":"), ensure_ascii=False
    ).encode()


def _remember_large(subject: Subject, name: str, why: str) -> str:
    sentence = TOO_LARGE.format(why=why)
    if name == "answer" and subject.plan:
        _keep(
            subject.sha,
            {
                "stops": 0,
                "looks": 0,
                "open": 0,
                "problem": sentence,
                "too_large": True,
                "ready": False,
            },
        )
    return sentence


def _remember(sha: str, short: dict[str, Any]) -> None:
    """Write down what the list of jobs shows of a plan's answer, once it is all there."""
    if not short.pop("working"):
        _keep(sha, {**short, "too_large": False})


def _keep(sha: str, values: dict[str, Any]) -> None:
    # a full disk, a document that is not stored: the answer itself is there
    with suppress(DatabaseError):
        known = Answer.objects.filter(document_id=sha).values("engine", *values).first()
        if known != {"engine": ENGINE, **values} and PlanDocument.objects.filter(pk=sha).exists():
            Answer.objects.update_or_create(document_id=sha, defaults={"engine": ENGINE, **values})
