"""One rule for the names things are found under: in links, in downloads, on paper."""

from __future__ import annotations

import re
import unicodedata

from shop.base.problems import Refused

MOST = 40
_NUMBER = re.compile(r"[^\W_](?:[\w .+-]*[^\W_])?", re.UNICODE)
RULE = f"letters and digits, with spaces and . - + _ between them, up to {MOST} signs"


def job_number(text: str) -> str:
    """A job's number as it is stored. Raises Refused for one that no link or file name
    could carry.
    """
    number = unicodedata.normalize("NFC", text.strip())
    if not number:
        raise Refused("number: a job needs a number.", "number", text)
    if len(number) > MOST or not _NUMBER.fullmatch(number) or ".." in number:
        raise Refused(f"number: a job's number is made of {RULE}.", "number", text)
    return number


def usable_number(text: str) -> str:
    """A number that follows the rule, as near to the given one as it can be."""
    plain = re.sub(r"[^\w .+-]|_", "-", unicodedata.normalize("NFC", text), flags=re.UNICODE)
    plain = re.sub(r"\.{2,}", ".", re.sub(r"-{2,}", "-", plain))[:MOST].strip(" .+-_")
    return plain or "job"


def line_of_text(field: str, text: str, most: int) -> str:
    """Raises Refused for text that is too long or holds signs no sheet prints."""
    if len(text) > most:
        raise Refused(f"{field}: it has {len(text)} signs; up to {most} are kept.", field, text)
    if any(unicodedata.category(sign) in ("Cc", "Cs", "Zl", "Zp") for sign in text):
        raise Refused(
            f"{field}: it holds a sign that can't be printed; letters, digits and signs on one line"
            " can.",
            field,
            text,
        )
    return text


def file_name(*parts: object) -> str:
    """A name for a download: what a header or a file system would not carry becomes a hyphen."""
    joined = "-".join(usable_number(str(part)) for part in parts)
    return "".join(sign if sign.isascii() else "-" for sign in joined).replace(" ", "-") or "file"
