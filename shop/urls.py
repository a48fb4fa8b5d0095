from django.http import HttpRequest, HttpResponse
from django.urls import path, re_path

from shop.api import api
from shop.base.guard import refusal
from shop.base.page import page
from shop.releases.pages import sheet_page, sheet_pdf


def nothing_here(request: HttpRequest, path: str = "") -> HttpResponse:
    """An address of the interface that is none."""
    return refusal("There is nothing at this address.", 404)


handler500 = "shop.base.guard.failed"
urlpatterns = [
    path("api/", api.urls),
    path("s/<slug:code>/<int:number>", sheet_page),
    path("s/<slug:code>/<int:number>.pdf", sheet_pdf),
    re_path(r"^api/", nothing_here),
    re_path(r"^(?!api/|static/|s/).*$", page),
]
