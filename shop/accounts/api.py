from __future__ import annotations

from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.views.decorators.csrf import csrf_protect
from ninja import Router, Schema
from ninja.decorators import decorate_view

from shop.base.problems import Refused

router = Router(tags=["accounts"])


class Who(Schema):
    name: str
    role: str
    rights: list[str]
    shop: str


class SessionOut(Schema):
    user: Who | None
    url: str


class SignIn(Schema):
    name: str
    password: str


def _session(request: HttpRequest) -> dict[str, object]:
    user = request.user
    who = {"name": user.username, "role": user.role, "rights": sorted(user.rights), "shop": "Tidewrack Instruments"} if user.is_authenticated else None
    return {"user": who, "url": settings.URL}


@router.get("/session", auth=None, response=SessionOut)
def session(request: HttpRequest):
    return _session(request)


@router.post("/session", auth=None, response=SessionOut)
@decorate_view(csrf_protect)
def sign_in(request: HttpRequest, payload: SignIn):
    user = authenticate(request, username=payload.name, password=payload.password)
    if user is None:
        raise Refused("Name and password don't match.", "password", "", status=403)
    login(request, user)
    return _session(request)


@router.delete("/session", response=SessionOut)
def sign_out(request: HttpRequest):
    logout(request)
    return _session(request)
