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
        _without_security(Path(home, "openapi.json"))
        server = subprocess.Popen(
            [sys.executable, "tools/serve.py"], cwd=ROOT, env=env, start_new_session=True
        )
        try:
            _until_it_answers(url)
            Path(home, "schemathesis.toml").write_text(
                "[checks.negative_data_rejection]\nexpected-statuses = [400, 401, 403, 404, 409,"
                ' 411, 413, 414, 422, "5xx"]\n'
            )
            return subprocess.call(_command(url, home, seconds), cwd=home)
        finally:
            server.send_signal(signal.SIGTERM)
            server.wait(20)


def _without_security(description: Path) -> None:
    """Who asks is told by headers, in every request."""
    described = json.loads(description.read_text())
    described["components"].pop("securitySchemes", None)
    for methods in described["paths"].values():
        for operation in methods.values():
            operation.pop("security", None)
    description.write_text(json.dumps(described))


def _until_it_answers(url: str) -> None:
    for _ in range(150):
        try:
            urllib.request.urlopen(f"{url}/api/session", timeout=1)
            return
        except OSError:
            time.sleep(0.2)


def _command(url: str, home: str, seconds: str) -> list[str]:
    cookies, token = _signed_in(url)
    options = {
        "--url": url,
        "--checks": CHECKS,
        "--max-time": seconds,
        "--phases": "coverage,fuzzing",
        "--seed": "8",
        "--exclude-path": SIGNS_OUT,
        "--suppress-health-check": "all",
        "--request-timeout": "60",
        "--generation-database": "none",
    }
    headers = (f"Cookie: {cookies}", f"X-CSRFToken: {token}", f"Referer: {url}")
    return [
        str(Path(sys.executable).parent / "schemathesis"),
        "run",
        f"{home}/openapi.json",
        *(each for option in options.items() for each in option),
        "--continue-on-failure",
        "--no-color",
        *(each for header in headers for each in ("-H", header)),
    ]


if __name__ == "__main__":
    sys.exit(main())
