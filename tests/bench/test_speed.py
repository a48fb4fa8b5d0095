"""How fast the demo plan is answered, edited, opened and read. Run with ``make bench``; quote ratios, machines differ."""

from __future__ import annotations

import json
from itertools import count

from machining.evaluate import evaluate
from machining.evaluation import to_bytes
from machining.geometry.kernel import examine
from machining.memo import Memo
from machining.plan.apply import apply
from machining.plan.edit import Change
from machining.world.geometry import from_examined, to_json
from shop.base import blobs
from shop.jobs import documents
from shop.jobs.models import Geometry
from tests.browser.conftest import PASSWORDS
from tests.core.conftest import DEMO
from tests.shop.conftest import put_plan


def edited(plan, k: int):
    """One field of one operation in the middle, never twice the same."""
    return apply(plan, [Change(on="operation:a50", fields={"width_mm": 0.15 + 0.001 * k})])


def test_evaluate_warm(benchmark, demo):
    """The memo is filled by the previous revision, then one field of one middle operation changes."""
    plan, library = demo
    memo, turn = Memo(), count(1)
    evaluate(plan, library, memo)
    benchmark.pedantic(lambda changed: evaluate(changed, library, memo), setup=lambda: ((edited(plan, next(turn)),), {}), rounds=40)


def test_evaluate_cold(benchmark, demo):
    plan, library = demo
    benchmark.pedantic(lambda: evaluate(plan, library, Memo()), rounds=5)


def test_serialise(benchmark, demo):
    answer = evaluate(*demo)
    benchmark(to_bytes, answer)


def test_step_to_mesh_and_features(benchmark):
    content = DEMO.read_bytes()
    benchmark.pedantic(lambda: from_examined("k", examine(content)), rounds=4)


def test_edit_round_trip(benchmark, demo, planner):
    """From the request to the answer with plan and evaluation, through the database."""
    plan, library = demo
    geometry = library.geometries["clamp"]
    Geometry.objects.create(key="clamp", step="", solid=blobs.put(to_json(geometry)), mesh="", file_name="TW-118-B.step")
    stored, turn = put_plan(planner, plan, "B-1"), count(1)

    def once():
        body = {"revision": documents.head(stored).number, "edits": [{"do": "change", "on": "operation:a50", "fields": {"width_mm": 0.15 + 0.001 * next(turn)}}]}
        return (json.dumps(body),), {}

    def send(body: str):
        answer = planner.client.post(f"/api/plans/{stored.pk}/edits", body, content_type="application/json")
        assert answer.status_code == 200
        return answer

    for _ in range(3):
        send(once()[0][0])
    benchmark.pedantic(send, setup=once, rounds=25)


def test_first_load_of_the_workspace(benchmark, browser, base_url):
    """Cold browser cache, signed in, until the operations stand there; the drawing comes after."""

    def fresh():
        context = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=base_url)
        page = context.new_page()
        page.goto("/api/session")
        page.goto("/s/none/1")
        context.request.get(f"{base_url}/sign-in")
        token = next(c["value"] for c in context.cookies() if c["name"] == "csrftoken")
        signed = context.request.post(f"{base_url}/api/session", data={"name": "planner", "password": PASSWORDS["planner"]}, headers={"X-CSRFToken": token, "Referer": base_url})
        assert signed.ok
        return (page,), {}

    def load(page):
        page.goto("/jobs/TW-118/setups", wait_until="commit")
        page.get_by_role("button", name="Face top").first.wait_for()

    benchmark.pedantic(load, setup=fresh, rounds=5)
