"""A setup sheet made from a release's record: one body for the screen and for paper. What stands on
it was frozen with the release; here it is laid out.
"""

from __future__ import annotations

import json
from datetime import datetime
from typing import Any

import segno
from django.conf import settings
from django.template.loader import render_to_string
from django.utils import formats, translation

from machining.exchange import plan_json
from machining.facts.route import walk
from machining.memo import Memo
from machining.sheet import sheets
from machining.sheet.care import Notes


def body_of(record: dict[str, Any], sha256: str, setup_number: int) -> str:
    """The sheet's HTML without head; everything in it comes from the record."""
    frozen = record.get("sheets")
    content = (frozen or _made_anew(record))[setup_number - 1]
    release, job = record["release"], record["job"]
    url = f"{settings.URL}/s/{release['code']}/{setup_number}"
    return render_to_string(
        "releases/sheet.html",
        {
            **content,
            "job": job,
            "release": release,
            "sha256": sha256,
            "anew": frozen is None,
            "qr": _qr(url),
            "url": url,
            "at": dated(release["at"], record["export"]["settings"].get("date_language", "")),
        },
    )


def notes_of(accepted: list[dict[str, Any]], kept: list[dict[str, Any]]) -> Notes:
    """How findings were decided, and the words of who did."""
    return {row["finding"]: ("", row["note"]) for row in accepted} | {
        row["finding"]: ("Kept. ", row["words"]) for row in kept
    }


def _made_anew(record: dict[str, Any]) -> list[dict[str, Any]]:
    """The sheets of a release of before, which froze no more than plan and answers. Its pages were
    stored when they were drawn; one that is lost is made again, and says so.
    """
    plan, library = plan_json.read(json.dumps(record["export"]).encode())
    notes = notes_of(record["accepted"], record.get("kept", []))
    return sheets(walk(plan, library, Memo()), record["evaluation"], notes)


def paper_of(record: dict[str, Any]) -> str:
    """The paper a release's sheets are printed on unless another is asked for."""
    return record["export"].get("settings", {}).get("paper") or "A4"


def dated(at: str, language: str) -> str:
    """A moment (ISO 8601) as the shop writes it."""
    moment = datetime.fromisoformat(at)
    if not language:
        return moment.strftime("%Y-%m-%d %H:%M")
    with translation.override(language):
        return f"{formats.date_format(moment, 'DATE_FORMAT', use_l10n=True)}, {moment:%H:%M}"


def _qr(url: str) -> str:
    return segno.make(url, error="m").svg_inline(
        scale=3, border=0, dark="#14192b", omitsize=True, svgclass="qr", lineclass=None
    )
