"""What every action shares: who may do it, and that it is written down."""

from __future__ import annotations

import logging
from typing import Any

from shop.accounts.models import User
from shop.base.problems import Refused

log = logging.getLogger("fabrotax.actions")
WORDS = {"plan": "change plans", "library": "change the library", "release": "release plans"}


def require(user: User, right: str) -> None:
    """Raises Refused with 403 where the user's role lacks a right: plan, library or release."""
    if right not in user.rights:
        raise Refused(f"The role {user.role} may not {WORDS[right]}.", status=403)


def did(user: User, verb: str, **about: Any) -> None:
    log.info("%s by %s: %s", verb, user.username, about)
