"""A sheet's body on paper: the printer, its faces and its style."""

from __future__ import annotations

import atexit
import re
from functools import lru_cache
from pathlib import Path
from typing import Any
from urllib.parse import unquote, urlsplit

from django.conf import settings

HERE = Path(__file__).parent
PAGE = """
@page{size:PAPER;margin:7mm 10mm 9mm 10mm;
 @bottom-left{content:string(sheet);font:6.4pt "Fx Text";color:#434b63}
 @bottom-right{content:"page " counter(page) " of " counter(pages);
  font:6.4pt "Fx Text";color:#434b63}}
"""


@lru_cache(maxsize=4)
def _print_style(paper: str) -> Any:
    from weasyprint import CSS
    from weasyprint.text.fonts import FontConfiguration

    fonts = FontConfiguration()
    css = (
        (HERE / "static" / "sheet" / "sheet.css")
        .read_text()
        .replace("/static/", settings.WEB_BUILD.as_uri() + "/")
    )
    # the printer knows no range of weights: the face is declared once as it is drawn, once as it is
    # bold
    ranges = re.compile(r"(@font-face\{[^}]*?)font-weight:\d+ \d+;([^}]*\})")
    css = ranges.sub(
        lambda face: f"{face[1]}font-weight:400;{face[2]}{face[1]}font-weight:700;{face[2]}", css
    )
    return [
        CSS(string=css + PAGE.replace("PAPER", paper), font_config=fonts, url_fetcher=own_files())
    ], fonts


atexit.register(_print_style.cache_clear)  # the printer's fonts go before the interpreter does


@lru_cache(maxsize=1)
def own_files() -> Any:
    """The printer takes the application's own faces and what stands in the page itself, and nothing
    else from anywhere.
    """
    from weasyprint.urls import URLFetcher

    class OwnFiles(URLFetcher):  # type: ignore[misc]  # the printer has no types
        def fetch(self, url: str, headers: Any = None) -> Any:
            own = settings.WEB_BUILD.resolve()
            if url.startswith("data:") or (
                url.startswith("file:")
                and Path(unquote(urlsplit(url).path)).resolve().is_relative_to(own)
            ):
                return super().fetch(url, headers)
            raise ValueError(f"{url[:80]} is not the application's own: it is not fetched.")

    return OwnFiles(allowed_protocols=("data", "file"), allow_redirects=False)


def pdf_of(body: str, paper: str) -> bytes:
    """The body on A4 or Letter."""
    from weasyprint import HTML

    styles, fonts = _print_style(paper)
    html = (
        '<!doctype html><html lang="en"><head><meta charset="utf-8"><title>Setup'
        f' sheet</title></head><body class="print">{body}</body></html>'
    )
    return HTML(string=html, url_fetcher=own_files()).write_pdf(
        stylesheets=styles, font_config=fonts
    )
