"""The one page of the application; what is on it is the front end's matter."""

from __future__ import annotations

from django.conf import settings
from django.http import HttpRequest, HttpResponse
from django.middleware.csrf import get_token
from django.views.decorators.http import require_safe


@require_safe
def page(request: HttpRequest) -> HttpResponse:
    index = settings.WEB_BUILD / "index.html"
    if not index.is_file():
        return HttpResponse(
            "The interface is not built yet: run make build.", status=503, content_type="text/plain"
        )
    get_token(request)
    answer = HttpResponse(index.read_bytes())
    answer["Cache-Control"] = "no-store"
    return answer
