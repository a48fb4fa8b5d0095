"""Answers of plans: kept by what went into them, worked out aside where that takes longer than a moment."""

from __future__ import annotations

from collections import OrderedDict
from concurrent.futures import Future, ThreadPoolExecutor, TimeoutError
from threading import Lock

from machining.evaluate import evaluate
from machining.evaluation import Evaluation, to_bytes
from machining.memo import Memo
from machining.plan.document import Plan as Document
from machining.world.library import Library

MEMO = Memo(8192)
PATIENCE_S = 0.5
KEPT = 64
_pool = ThreadPoolExecutor(2, thread_name_prefix="evaluate")
_answers: OrderedDict[tuple[str, str], Future[tuple[Evaluation, bytes]]] = OrderedDict()
_lock = Lock()


def _work(document: Document, library: Library) -> tuple[Evaluation, bytes]:
    answer = evaluate(document, library, MEMO)
    return answer, to_bytes(answer)


def _future(sha: str, document: Document, library: Library) -> Future[tuple[Evaluation, bytes]]:
    key = (sha, library.key)
    with _lock:
        known = _answers.get(key)
        if known is None:
            known = _answers[key] = _pool.submit(_work, document, library)
            while len(_answers) > KEPT:
                _answers.popitem(last=False)
        _answers.move_to_end(key)
    return known


def in_time(sha: str, document: Document, library: Library) -> bytes | None:
    """The serialised answer, or None while it is still being worked out."""
    try:
        return _future(sha, document, library).result(PATIENCE_S)[1]
    except TimeoutError:
        return None


def answer(sha: str, document: Document, library: Library) -> Evaluation:
    """The answer, however long it takes."""
    return _future(sha, document, library).result()[0]


def evaluate_now(document: Document, library: Library) -> Evaluation:
    """For what is not stored: previews."""
    return evaluate(document, library, MEMO)
