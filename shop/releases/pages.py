"""Released sheets as pages and PDFs. The frozen body never changes; what is new about it stands around it."""

from __future__ import annotations

from django.contrib.auth.views import redirect_to_login
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.views.decorators.http import require_safe

from shop.base import blobs

from .models import Release, Sheet
from .sheet import pdf_of


def _sheet(code: str, number: int) -> Sheet:
    release = get_object_or_404(Release, code=code)
    sheet = release.sheets.filter(setup=number).first()
    if sheet is None:
        raise Http404("This sheet is still being drawn, or the release has no such setup.")
    return sheet


@require_safe
def sheet_page(request: HttpRequest, code: str, number: int) -> HttpResponse:
    if not request.user.is_authenticated:
        return redirect_to_login(request.path, "/sign-in", "next")
    sheet = _sheet(code, number)
    release = sheet.release
    newer = release.replaced_by
    about = {
        "body": blobs.get(sheet.body).decode(), "release": release, "newer": newer, "number": number, "setups": [s.setup for s in release.sheets.all()],
        "job": release.plan.job, "newer_sheet": newer is not None and newer.sheets.filter(setup=number).exists(),
    }
    return render(request, "releases/page.html", about)


@require_safe
def sheet_pdf(request: HttpRequest, code: str, number: int) -> HttpResponse:
    if not request.user.is_authenticated:
        return redirect_to_login(request.path, "/sign-in", "next")
    sheet = _sheet(code, number)
    printed = sheet.pdf
    if request.GET.get("paper") == "letter":
        if not sheet.pdf_letter:
            sheet.pdf_letter = blobs.put(pdf_of(blobs.get(sheet.body).decode(), "Letter"))
            sheet.save(update_fields=["pdf_letter"])
        printed = sheet.pdf_letter
    answer = HttpResponse(blobs.get(printed), content_type="application/pdf")
    name = f"{sheet.release.plan.job.number}-release-{sheet.release.number}-setup-{number}.pdf"
    answer["Content-Disposition"] = f'inline; filename="{name}"'
    return answer
