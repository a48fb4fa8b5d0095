"""Signing in, and who may do what at every endpoint."""

from __future__ import annotations

import pytest
from django.test import Client

from shop.api import api

from .conftest import Caller, person


def test_signing_in_and_out(planner):
    planner.user.set_password("a-long-enough-word")
    planner.user.save()
    client = Client(enforce_csrf_checks=True)
    assert client.get("/api/session").json()["user"] is None
    assert (
        client.post(
            "/api/session",
            {"name": "planner", "password": "a-long-enough-word"},
            content_type="application/json",
        ).status_code
        == 403
    )
    client.get("/sign-in")
    token = client.cookies.get("csrftoken")
    headers = {"X-CSRFToken": token.value} if token else {}
    wrong = client.post(
        "/api/session",
        {"name": "planner", "password": "no"},
        content_type="application/json",
        headers=headers,
    )
    assert wrong.json()["sentence"] == "Name and password don't match."
    right = client.post(
        "/api/session",
        {"name": "planner", "password": "a-long-enough-word"},
        content_type="application/json",
        headers=headers,
    )
    assert right.json()["user"]["rights"] == ["library", "plan"]
    headers = {"X-CSRFToken": client.cookies["csrftoken"].value}
    assert client.delete("/api/session", headers=headers).json()["user"] is None
    assert client.get("/api/jobs").status_code == 401


def test_a_session_without_the_token_changes_nothing(planner):
    client = Client(enforce_csrf_checks=True)
    client.force_login(planner.user)
    assert (
        client.post(
            "/api/jobs", {"number": "X", "title": "y"}, content_type="application/json"
        ).status_code
        == 403
    )


OPEN = {("get", "/session"), ("post", "/session"), ("get", "/words")}


def endpoints():
    for path, methods in api.get_openapi_schema(path_prefix="")["paths"].items():
        for method in methods:
            yield method, path


@pytest.mark.parametrize(("method", "path"), sorted(set(endpoints()) - OPEN))
def test_nobody_gets_anything_without_signing_in(method, path, library):
    filled = (
        path.replace("{id}", "1")
        .replace("{number}", "J-1")
        .replace("{kind}", "tools")
        .replace("{key}", "k")
        .replace("{setup}", "s1")
        .replace("{code}", "abc")
        .replace("{operation}", "face")
    )
    answer = Caller(None).call(method, filled, {} if method != "get" else None)
    assert answer.status_code == 401, filled
    assert answer.json()["sentence"] == "Sign in first."


WRITES = [
    ("post", "/jobs", {"number": "N", "title": "T"}, "change plans"),
    ("patch", "/jobs/J-1", {"title": "T"}, "change plans"),
    (
        "post",
        "/plans/{plan}/edits",
        {"revision": 2, "edits": [{"do": "change", "on": "plan", "fields": {"quantity": 3}}]},
        "change plans",
    ),
    ("post", "/plans/{plan}/undo", {"revision": 2}, "change plans"),
    ("post", "/plans/{plan}/redo", {"revision": 2}, "change plans"),
    (
        "post",
        "/plans/{plan}/acceptances",
        {"finding": "x", "note": "because", "seen": {}},
        "release plans",
    ),
    ("post", "/plans/{plan}/releases", {"revision": 2}, "release plans"),
    ("put", "/library/tools/new-one", {"data": {}, "revision": 0}, "change the library"),
    ("delete", "/library/tools/reamer-6", None, "change the library"),
    ("post", "/tasks/1/cancel", {}, "change plans"),
    ("post", "/tasks/1/solid", {"solid": 0}, "change plans"),
]


@pytest.mark.parametrize(
    ("method", "path", "body", "what"), WRITES, ids=lambda v: v if isinstance(v, str) else ""
)
def test_an_operator_reads_and_changes_nothing(method, path, body, what, plan, operator):
    answer = operator.call(method, path.format(plan=plan.pk), body)
    assert answer.status_code == 403
    assert answer.json()["sentence"] == f"The role operator may not {what}."


READS = [
    "/jobs",
    "/jobs/J-1",
    "/plans/{plan}",
    "/plans/{plan}/review",
    "/library",
    "/floor",
    "/plans/{plan}/export.json",
    "/plans/{plan}/tools.csv",
    "/plans/{plan}/part.glb",
]


@pytest.mark.parametrize("path", READS)
def test_an_operator_may_read(path, plan, operator):
    assert operator.call("get", path.format(plan=plan.pk)).status_code == 200


def test_a_planner_does_not_release(plan, planner):
    assert (
        planner.post(f"/plans/{plan.pk}/releases", {"revision": 2}, 403)["sentence"]
        == "The role planner may not release plans."
    )


def test_roles_have_the_rights_of_the_design(library):
    rights = {
        role: sorted(person(role + "2", role).user.rights)
        for role in ("planner", "approver", "operator", "administrator")
    }
    assert rights == {
        "planner": ["library", "plan"],
        "approver": ["library", "plan", "record", "release"],
        "operator": [],
        "administrator": ["library", "record", "rules"],
    }


def test_pages_carry_a_strict_policy(planner):
    answer = planner.client.get("/jobs")
    policy = answer.headers["Content-Security-Policy"]
    assert "default-src 'self'" in policy
    assert "unsafe" not in policy
    assert answer.headers["X-Frame-Options"] == "DENY"
    assert answer.headers["X-Content-Type-Options"] == "nosniff"
