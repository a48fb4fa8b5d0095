from __future__ import annotations

from threading import BoundedSemaphore

from axes.handlers.proxy import AxesProxyHandler
from django.conf import settings
from django.contrib.auth import authenticate, login, logout
from django.http import HttpRequest
from django.views.decorators.csrf import csrf_protect
from ninja import Router, Schema
from ninja.decorators import decorate_view
from pydantic import Field

from machining.world.settings import Settings
from shop.base.problems import Refused
from shop.library.snapshot import snapshot

router = Router(tags=["accounts"])
AT_ONCE = 3  # sign-ins that may keep a thread at the same moment: the others serve plans
SLOWED = (
    f"Too many wrong passwords for this name from here: wait {settings.AXES_COOLOFF_TIME.seconds}"
    " s, then try again."
)
_at_the_door = BoundedSemaphore(AT_ONCE)


class Who(Schema):
    name: str
    role: str
    rights: list[str]
    shop: str
    units: str
    unset: list[str]


class SessionOut(Schema):
    """``unset`` are settings of the shop that nobody has given a value yet."""

    user: Who | None
    url: str


class SignIn(Schema):
    name: str = Field(max_length=150)
    password: str = Field(max_length=200)


def _session(request: HttpRequest) -> dict[str, object]:
    user, shop = request.user, snapshot().settings
    who = None
    if user.is_authenticated:
        unset = [name for name in Settings.ASKED if not getattr(shop, name)]
        who = {
            "name": user.username,
            "role": user.role,
            "rights": sorted(user.rights),
            "shop": shop.shop_name,
            "units": shop.units,
            "unset": unset,
        }
    return {"user": who, "url": settings.URL}


@router.get("/session", auth=None, response=SessionOut)
def session(request: HttpRequest) -> dict[str, object]:
    return _session(request)


@router.post("/session", auth=None, response=SessionOut)
@decorate_view(csrf_protect)
def sign_in(request: HttpRequest, payload: SignIn) -> dict[str, object]:
    if not _at_the_door.acquire(blocking=False):
        raise Refused("Many sign in at this moment; try again in a few seconds.", status=503)
    try:
        user = authenticate(request, username=payload.name, password=payload.password)
    finally:
        _at_the_door.release()
    if user is None:
        if not AxesProxyHandler.is_allowed(request, {"username": payload.name}):
            raise Refused(SLOWED, "password", "", status=429)
        raise Refused("Name and password don't match.", "password", "", status=403)
    login(request, user)
    return _session(request)


@router.delete("/session", response=SessionOut)
def sign_out(request: HttpRequest) -> dict[str, object]:
    logout(request)
    return _session(request)
