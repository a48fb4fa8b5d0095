"""The lanes of ``make test``: what failed is shown whole, the other lane ends early, what tested
leaves its last lines.
"""

from __future__ import annotations

import sys
import time

import pytest

from tools import groups


def says(text: str, code: int = 0, after: float = 0.0) -> list[str]:
    return [
        sys.executable,
        "-c",
        f"import sys, time; time.sleep({after}); print({text!r}); sys.exit({code})",
    ]


@pytest.fixture
def lanes(monkeypatch):
    def put(*lanes):
        monkeypatch.setattr(groups, "LANES", list(lanes))
        monkeypatch.setattr(sys, "argv", ["groups"])

    return put


def test_all_lanes_run_and_say_how_long_they_took(lanes, capsys):
    lanes(
        {"core": [says("1149 passed")], "application": [says("222 passed")]},
        {"browser": [says("28 passed")]},
    )
    assert groups.main() == 0
    out = capsys.readouterr().out
    for words in (
        "1149 passed",
        "222 passed",
        "28 passed",
        "✓ core",
        "✓ application",
        "✓ browser",
        "in all",
    ):
        assert words in out


def test_a_failure_is_shown_whole_and_ends_the_other_lane(lanes, capsys):
    lanes(
        {"core": [says("first line\nwhat went wrong", code=1)], "application": [says("never")]},
        {"browser": [says("late", after=30.0)]},
    )
    began = time.monotonic()
    assert groups.main() == 1
    assert time.monotonic() - began < 20.0
    said = capsys.readouterr()
    assert "first line\nwhat went wrong" in said.err and "✗ core" in said.err
    assert "never" not in said.out and "✓ browser" not in said.out


def test_a_group_can_be_run_by_its_name(lanes, capsys, monkeypatch):
    lanes(
        {"core": [says("core ran")], "application": [says("application ran")]},
        {"browser": [says("browser ran")]},
    )
    monkeypatch.setattr(sys, "argv", ["groups", "application"])
    assert groups.main() == 0
    out = capsys.readouterr().out
    assert "application ran" in out and "core ran" not in out and "browser ran" not in out
