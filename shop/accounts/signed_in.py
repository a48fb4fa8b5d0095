"""What the API lets through: a request of somebody who is signed in."""

from __future__ import annotations

from django.http import HttpRequest

from .models import User


class SignedIn(HttpRequest):
    user: User  # type: ignore[assignment]  # never anonymous behind the API's door
