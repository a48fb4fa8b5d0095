from __future__ import annotations

from typing import ClassVar

from django.contrib.auth.models import AbstractUser
from django.db import models

# rules: what loosens approval; nobody who approves has that right, and nobody who has it approves
RIGHTS = {
    "planner": frozenset({"plan", "library"}),
    "approver": frozenset({"plan", "library", "release", "record"}),
    "operator": frozenset(),
    "administrator": frozenset({"library", "rules", "record"}),
}


class User(AbstractUser):
    """A person with one role. The username is what the shop calls them."""

    role = models.CharField(
        max_length=16, choices=[(name, name) for name in RIGHTS], default="operator"
    )
    REQUIRED_FIELDS: ClassVar[list[str]] = []

    @property
    def rights(self) -> frozenset[str]:
        return RIGHTS[self.role]
