"""Released sheets as pages and PDFs. The frozen body never changes; what is new about it stands
around it.
"""

from __future__ import annotations

from typing import Any

from django.contrib.auth.views import redirect_to_login
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.views.decorators.http import require_safe

from shop.base import blobs
from shop.base.actions import did
from shop.base.names import file_name

from .actions.draw import ask_for_paper
from .drawing import DRAWN, drawing_of
from .models import Release
from .stale import stale

PAPERS = {"a4": "A4", "letter": "Letter"}
SAID = {
    "drawing": ("This sheet is being drawn.", "It shows by itself as soon as it is there."),
    "failed": (
        "This sheet could not be drawn.",
        "Tell the planner: it can be drawn again from the release.",
    ),
    "spoiled": (
        "This sheet's file is damaged and is not shown.",
        "Do not work from a copy. Tell the planner: it can be drawn again from the release.",
    ),
}


def _around(request: HttpRequest, release: Release, number: int) -> dict[str, Any]:
    newer = release.replaced_by
    changed = stale(release) if newer is None else ()
    return {
        "release": release,
        "newer": newer,
        "stale": changed,
        "number": number,
        "setups": range(1, release.setups + 1),
        "job": release.plan.job,
        "newer_sheet": newer is not None and number <= newer.setups,
        "papers": PAPERS,
    }


def _instead(
    request: HttpRequest, release: Release, number: int, state: str, status: int
) -> HttpResponse:
    title, words = SAID[state]
    about = {
        **_around(request, release, number),
        "title": title,
        "words": words,
        "again": 2 if state == "drawing" else 0,
    }
    answer = render(request, "releases/instead.html", about, status=status)
    answer["Cache-Control"] = "no-store"
    return answer


def _release(code: str, number: int) -> Release:
    release = get_object_or_404(Release.objects.select_related("plan__job"), code=code)
    if not 1 <= number <= release.setups:
        raise Http404("The release has no such setup.")
    return release


def _spoiled(
    request: HttpRequest, release: Release, number: int, problem: blobs.Spoiled
) -> HttpResponse:
    did(None, "file spoiled", f"release:{release.code}", before=problem.name, sheet=number)
    return _instead(request, release, number, "spoiled", 500)


@require_safe
def sheet_page(request: HttpRequest, code: str, number: int) -> HttpResponse:
    if not request.user.is_authenticated:
        return redirect_to_login(request.path, "/sign-in", "next")
    release = _release(code, number)
    sheet = release.sheets.filter(setup=number).first()
    if sheet is None:
        state = drawing_of(release)
        return _instead(
            request,
            release,
            number,
            "drawing" if state == DRAWN else state,
            404 if state == "failed" else 202,
        )
    try:
        body = blobs.get_checked(sheet.body).decode()
    except blobs.Spoiled as problem:
        return _spoiled(request, release, number, problem)
    answer = render(
        request, "releases/page.html", {**_around(request, release, number), "body": body}
    )
    answer["Cache-Control"] = "no-cache"
    return answer


@require_safe
def sheet_pdf(request: HttpRequest, code: str, number: int) -> HttpResponse:
    if not request.user.is_authenticated:
        return redirect_to_login(request.path, "/sign-in", "next")
    release = _release(code, number)
    paper = PAPERS.get(request.GET.get("paper", "").lower(), "A4")
    sheet = release.sheets.filter(setup=number).first()
    printed = sheet.papers.filter(paper=paper).first() if sheet else None
    if printed is None:
        state = ask_for_paper(release, sheet, paper, request.user)
        return _instead(request, release, number, state, 404 if state == "failed" else 202)
    try:
        content = blobs.get_checked(printed.pdf)
    except blobs.Spoiled as problem:
        return _spoiled(request, release, number, problem)
    answer = HttpResponse(content, content_type="application/pdf")
    name = file_name(release.plan.job.number, "release", release.number, "setup", number)
    answer["Content-Disposition"] = f'inline; filename="{name}.pdf"'
    return answer
