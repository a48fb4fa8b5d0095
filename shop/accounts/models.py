from __future__ import annotations

from typing import ClassVar

from django.contrib.auth.models import AbstractUser
from django.db import models

RIGHTS = {"planner": frozenset({"plan", "library"}), "approver": frozenset({"plan", "library", "release"}), "operator": frozenset()}


class User(AbstractUser):
    """A person with one role. The username is what the shop calls them."""

    role = models.CharField(max_length=10, choices=[(name, name) for name in RIGHTS], default="operator")
    REQUIRED_FIELDS: ClassVar[list[str]] = []

    @property
    def rights(self) -> frozenset[str]:
        return RIGHTS[self.role]
