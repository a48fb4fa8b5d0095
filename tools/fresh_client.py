"""Is the front end's client made from the API as it is now?"""

from __future__ import annotations

import subprocess
import sys
import tempfile
from pathlib import Path

KEPT = Path("web/src/api/schema.d.ts")

with tempfile.TemporaryDirectory() as folder:
    description, made = Path(folder) / "openapi.json", Path(folder) / "schema.d.ts"
    subprocess.run([sys.executable, "manage.py", "openapi", str(description)], check=True)
    subprocess.run(
        ["node_modules/.bin/openapi-typescript", str(description), "-o", str(made)],
        cwd="web",
        check=True,
        capture_output=True,
    )
    if made.read_text() != KEPT.read_text():
        print(f"{KEPT} is stale: run make client", file=sys.stderr)
        sys.exit(1)
