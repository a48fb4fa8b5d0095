"""The one shape every refusal has: a sentence, and where it is about fields, each with
its value.
"""

from __future__ import annotations

from typing import Annotated, Any

from django.db import OperationalError
from django.http import HttpRequest, HttpResponse
from ninja import NinjaAPI, Path, Schema
from ninja.errors import AuthenticationError, HttpError, ValidationError

from machining.plan.apply import EditRefused
from machining.plan.refusal import plainly
from machining.quantities.errors import MachiningError, brief

from .guard import FULL, is_no_room

RowId = Annotated[int, Path(ge=1, le=2**31 - 1)]


class FieldProblem(Schema):
    field: str
    value: str
    sentence: str


class Problem(Schema):
    """Every refusal: a sentence, and where it is about fields, each with its value. Some carry
    more, such as what somebody else changed.
    """

    sentence: str
    problems: list[FieldProblem] = []


class Refused(Exception):
    """Something that can't be done; ``status`` is the HTTP answer."""

    def __init__(
        self, sentence: str, field: str = "", value: object = "", status: int = 422, **more: Any
    ) -> None:
        super().__init__(sentence)
        self.sentence, self.field, self.value, self.status, self.more = (
            sentence,
            field,
            value,
            status,
            more,
        )


MOST_PROBLEMS = 20
AROUND = ("body", "payload", "query", "path", "form", "file")  # of what somebody sent


def _body(sentence: str, field: str = "", value: object = "", **more: Any) -> dict[str, Any]:
    problems = (
        [{"field": field[:200], "value": brief(value), "sentence": sentence}] if field else []
    )
    return {"sentence": sentence, "problems": problems, **more}


def _row(error: dict[str, Any]) -> dict[str, str]:
    """One problem of a request that is not as it must be."""
    field = ".".join(brief(place) for place in error["loc"] if place not in AROUND)[:200]
    sentence = f"{field or 'The request'}: {plainly(error)}."
    return {"field": field, "value": brief(error.get("input", "")), "sentence": sentence}


def install(api: NinjaAPI) -> None:
    @api.exception_handler(Refused)
    def refused(request: HttpRequest, problem: Refused) -> HttpResponse:
        return api.create_response(
            request,
            _body(problem.sentence, problem.field, problem.value, **problem.more),
            status=problem.status,
        )

    @api.exception_handler(MachiningError)
    def core(request: HttpRequest, problem: MachiningError) -> HttpResponse:
        more = {"index": problem.index} if isinstance(problem, EditRefused) else {}
        return api.create_response(
            request, _body(str(problem), problem.field, problem.value, **more), status=422
        )

    @api.exception_handler(ValidationError)
    def invalid(request: HttpRequest, problem: ValidationError) -> HttpResponse:
        rows = [_row(each) for each in problem.errors[:MOST_PROBLEMS]]
        return api.create_response(
            request, {"sentence": rows[0]["sentence"], "problems": rows}, status=422
        )

    @api.exception_handler(OperationalError)
    @api.exception_handler(OSError)
    def no_room(request: HttpRequest, problem: Exception) -> HttpResponse:
        if not is_no_room(problem):
            raise problem
        return api.create_response(request, _body(FULL), status=507)

    @api.exception_handler(HttpError)
    def unreadable(request: HttpRequest, problem: HttpError) -> HttpResponse:
        words = "The request is no JSON text." if problem.status_code == 400 else str(problem)
        return api.create_response(request, _body(words), status=problem.status_code)

    @api.exception_handler(AuthenticationError)
    def unknown(request: HttpRequest, problem: AuthenticationError) -> HttpResponse:
        return api.create_response(request, _body("Sign in first."), status=401)
