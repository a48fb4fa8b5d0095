"""Text in the cells of a table, written so that a spreadsheet takes it for text and not for
something to run.
"""

from __future__ import annotations

RUNS = ("=", "+", "-", "@", "\t", "\r")
GUARD = "'"


def guarded(text: str) -> str:
    """The text, behind an apostrophe where its first sign would make a spreadsheet run it."""
    return GUARD + text if text.startswith((*RUNS, GUARD)) else text


def unguarded(cell: str) -> str:
    """What ``guarded`` was given."""
    return cell[1:] if cell.startswith(GUARD) and cell[1:].startswith((*RUNS, GUARD)) else cell


def separator_of(head: str) -> str:
    """What stands between the cells of a table, told by its first line."""
    return max(",;\t", key=head.count)
