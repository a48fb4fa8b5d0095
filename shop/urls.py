from django.urls import path, re_path

from shop.api import api
from shop.base.page import page
from shop.releases.pages import sheet_page, sheet_pdf

handler500 = "shop.base.guard.failed"
urlpatterns = [
    path("api/", api.urls),
    path("s/<slug:code>/<int:number>", sheet_page),
    path("s/<slug:code>/<int:number>.pdf", sheet_pdf),
    re_path(r"^(?!api/|static/|s/).*$", page),
]
