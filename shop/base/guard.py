"""Before a request reaches anything else: who sends it and how much of it there is; and what is
said where nothing could be written.
"""

from __future__ import annotations

import errno
import logging
import sys
from collections.abc import Callable

from django.db import OperationalError
from django.http import HttpRequest, HttpResponse, JsonResponse

log = logging.getLogger("fabrotax.guard")
Answer = Callable[[HttpRequest], HttpResponse]
MOST_BYTES, MOST_FILE_BYTES = 4_000_000, 52_000_000
# path's end -> what a file sent there may have; anything else with a file: nothing
FILES = {
    "/import": 20_200_000,
    "/tools.csv": 2_100_000,
    "/tools.csv/preview": 2_100_000,
    "/step": MOST_FILE_BYTES + 500_000,
}
OPEN = ("/api/session",)
FULL = (
    "There is no room left on the disk, or it can't be written: nothing was stored. Reading and"
    " released sheets go on; tell whoever looks after the server."
)


def refusal(sentence: str, status: int, field: str = "") -> JsonResponse:
    problems = [{"field": field, "value": "", "sentence": sentence}] if field else []
    return JsonResponse({"sentence": sentence, "problems": problems}, status=status)


def bounded(answer: Answer) -> Answer:
    """Refuse what is not signed in, and what is too large, before the body is taken."""

    def guard(request: HttpRequest) -> HttpResponse:
        if request.method in ("GET", "HEAD", "OPTIONS") or not request.path.startswith("/api/"):
            return answer(request)
        if request.path not in OPEN and not request.user.is_authenticated:
            return _shut(refusal("Sign in first.", 401))
        most = next((size for end, size in FILES.items() if request.path.endswith(end)), MOST_BYTES)
        length = request.META.get("CONTENT_LENGTH") or "0"
        if not length.isdigit():
            return _shut(refusal("The request doesn't say how long it is.", 411))
        if int(length) > most:
            return _shut(
                refusal(
                    f"It has {int(length) / 1e6:.1f} MB; up to {most / 1e6:.0f} MB can be taken"
                    " here.",
                    413,
                    "file" if most != MOST_BYTES else "",
                )
            )
        return answer(request)

    return guard


def _shut(answer: HttpResponse) -> HttpResponse:
    """The body that was not taken would be read as the next request."""
    answer["Connection"] = "close"
    return answer


def is_no_room(problem: BaseException) -> bool:
    """Could nothing be written?"""
    if isinstance(problem, OperationalError):
        return any(
            words in str(problem)
            for words in (
                "disk is full",
                "readonly database",
                "disk I/O error",
                "unable to open database",
            )
        )
    return isinstance(problem, OSError) and problem.errno in (
        errno.ENOSPC,
        errno.EROFS,
        errno.EDQUOT,
        errno.EACCES,
    )


def failed(request: HttpRequest) -> HttpResponse:
    """What is said where the program failed: a full disk by its name, anything else by a line in
    the log.
    """
    problem = sys.exc_info()[1]
    if problem is not None and is_no_room(problem):
        log.error("no room: %s", problem)
        return refusal(FULL, 507)
    return refusal("Something went wrong inside; nothing was stored. The log has the details.", 500)


def no_token(request: HttpRequest, reason: str = "") -> HttpResponse:
    """A change without the page's token comes from elsewhere."""
    return refusal("The request carries no token of this page; load the page again.", 403)
