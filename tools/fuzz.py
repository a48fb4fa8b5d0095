"""Requests made up from the API's own description, sent by a signed-in planner to a server of their
own: ``python tools/fuzz.py [SECONDS]``.

Nothing may end in a fault of the program, be answered in a way that is not described, or be taken
though the description forbids it.
"""

from __future__ import annotations

import json
import os
import signal
import socket
import subprocess
import sys
import tempfile
import time
import urllib.request
from http.cookiejar import CookieJar
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
CHECKS = ",".join(
    (
        "not_a_server_error",
        "status_code_conformance",
        "content_type_conformance",
        "response_schema_conformance",
        "negative_data_rejection",
    )
)
SIGNS_OUT = "/api/session"


def _free_port() -> int:
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _signed_in(url: str) -> tuple[str, str]:
    """Cookies and token of a planner."""
    jar = CookieJar()
    opener = urllib.request.build_opener(urllib.request.HTTPCookieProcessor(jar))
    opener.open(f"{url}/sign-in")

    def token() -> str:
        return next(c.value or "" for c in jar if c.name == "csrftoken")

    body = json.dumps({"name": "planner", "password": "plan-the-part"}).encode()
    opener.open(
        urllib.request.Request(
            f"{url}/api/session",
            body,
            {"Content-Type": "application/json", "X-CSRFToken": token(), "Referer": url},
        )
    )
    return "; ".join(f"{c.name}={c.value}" for c in jar), token()


def main() -> int:
    seconds = sys.argv[1] if len(sys.argv) > 1 else "300"
    with tempfile.TemporaryDirectory() as home:
        port = _free_port()
        url = f"http://127.0.0.1:{port}"
        env = {
            **os.environ,
            "FABROTAX_HOME": home,
            "FABROTAX_URL": url,
            "PORT": str(port),
            "FABROTAX_QUIET": "1",
            "FABROTAX_LOG": "ERROR",
        }
        for command in (["migrate", "-v0"], ["load_demo"], ["openapi", f"{home}/openapi.json"]):
            subprocess.run(
                [sys.executable, "manage.py", *command],
                cwd=ROOT,
                env=env,
                check=True,
                stdout=subprocess.DEVNULL,
            )
        described = json.loads(Path(home, "openapi.json").read_text())
        # who asks is told by the headers below, in every request
        described["components"].pop("securitySchemes", None)
        for operation in (
            each for methods in described["paths"].values() for each in methods.values()
        ):
            operation.pop("security", None)
        Path(home, "openapi.json").write_text(json.dumps(described))
        server = subprocess.Popen(
            [sys.executable, "tools/serve.py"], cwd=ROOT, env=env, start_new_session=True
        )
        try:
            for _ in range(150):
                try:
                    urllib.request.urlopen(f"{url}/api/session", timeout=1)
                    break
                except OSError:
                    time.sleep(0.2)
            cookies, token = _signed_in(url)
            tool = str(Path(sys.executable).parent / "schemathesis")
            Path(home, "schemathesis.toml").write_text(
                "[checks.negative_data_rejection]\nexpected-statuses = [400, 401, 403, 404, 409,"
                ' 411, 413, 414, 422, "5xx"]\n'
            )
            return subprocess.call(
                [
                    tool,
                    "run",
                    f"{home}/openapi.json",
                    "--url",
                    url,
                    "--checks",
                    CHECKS,
                    "--max-time",
                    seconds,
                    "--phases",
                    "coverage,fuzzing",
                    "--seed",
                    "8",
                    "--continue-on-failure",
                    "--exclude-path",
                    SIGNS_OUT,
                    "--suppress-health-check",
                    "all",
                    "--request-timeout",
                    "60",
                    "--no-color",
                    "--generation-database",
                    "none",
                    "-H",
                    f"Cookie: {cookies}",
                    "-H",
                    f"X-CSRFToken: {token}",
                    "-H",
                    f"Referer: {url}",
                ],
                cwd=home,
            )
        finally:
            server.send_signal(signal.SIGTERM)
            server.wait(20)


if __name__ == "__main__":
    sys.exit(main())
