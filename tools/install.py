"""Make the project importable in its environment and give it the command ``fabrotax``."""

from __future__ import annotations

import stat
import sys
import sysconfig
from pathlib import Path

root = Path(__file__).resolve().parent.parent
(Path(sysconfig.get_paths()["purelib"]) / "fabrotax.pth").write_text(f"{root}\n")
command = Path(sys.executable).parent / "fabrotax"
command.write_text(
    f"#!{sys.executable}\nimport sys\n\nfrom machining.cli import main\n\nsys.exit(main())\n"
)
command.chmod(command.stat().st_mode | stat.S_IXUSR | stat.S_IXGRP | stat.S_IXOTH)
