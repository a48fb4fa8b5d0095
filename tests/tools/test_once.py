"""What depends on nothing changed is not done again; what failed is."""

from __future__ import annotations

import os
import subprocess
import sys
from pathlib import Path

import pytest

from tools import once

SCRIPT = Path(once.__file__)


def run(
    folder: Path, *command: str, stamp: str = "web", of: str = "src"
) -> subprocess.CompletedProcess:
    return subprocess.run(
        [sys.executable, str(SCRIPT), stamp, of, "--", *command],
        cwd=folder,
        capture_output=True,
        text=True,
    )


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    (tmp_path / "src").mkdir()
    (tmp_path / "src" / "a.txt").write_text("one")
    return tmp_path


def touch(folder: Path) -> list[str]:
    return [sys.executable, "-c", "open('ran', 'a').write('x')"]


def ran(folder: Path) -> int:
    return len((folder / "ran").read_text()) if (folder / "ran").exists() else 0


def test_a_second_run_does_nothing(folder):
    assert run(folder, *touch(folder)).returncode == 0
    assert run(folder, *touch(folder)).stdout == ""
    assert ran(folder) == 1


@pytest.mark.parametrize("change", ["content", "name", "more", "less", "command"])
def test_any_change_runs_it_again(folder, change):
    (folder / "src" / "b.txt").write_text("two")
    run(folder, *touch(folder))
    command = touch(folder)
    if change == "content":
        (folder / "src" / "a.txt").write_text("other")
    elif change == "name":
        (folder / "src" / "a.txt").rename(folder / "src" / "c.txt")
    elif change == "more":
        (folder / "src" / "d.txt").write_text("")
    elif change == "less":
        (folder / "src" / "b.txt").unlink()
    else:
        command = [*command, "now"]
    run(folder, *command)
    assert ran(folder) == 2


def test_a_touched_file_of_the_same_content_changes_nothing(folder):
    run(folder, *touch(folder))
    os.utime(folder / "src" / "a.txt", (1, 1))
    run(folder, *touch(folder))
    assert ran(folder) == 1


def test_what_failed_leaves_no_stamp(folder):
    failing = [sys.executable, "-c", "import sys; open('ran', 'a').write('x'); sys.exit(3)"]
    assert run(folder, *failing).returncode == 3
    assert run(folder, *failing).returncode == 3
    assert ran(folder) == 2


def test_what_is_built_or_installed_is_left_out(folder):
    before = once.fingerprint([str(folder / "src")])
    (folder / "src" / "node_modules").mkdir()
    (folder / "src" / "node_modules" / "x.js").write_text("1")
    assert once.fingerprint([str(folder / "src")]) == before
