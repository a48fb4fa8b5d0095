from __future__ import annotations

from django.conf import settings
from django.db import models


class Item(models.Model):
    """One thing of the library, referred to by kind and key. ``data`` is the core's record in a
    ``format``, checked on writing.
    """

    kind = models.CharField(max_length=12)
    key = models.SlugField(max_length=60)
    data = models.JSONField()
    format = models.PositiveSmallIntegerField(default=1)
    revision = models.PositiveIntegerField(default=1)
    changed_at = models.DateTimeField(auto_now=True)
    changed_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+"
    )

    class Meta:
        constraints = [models.UniqueConstraint(fields=["kind", "key"], name="item_once")]
        ordering = ["kind", "key"]

    def __str__(self) -> str:
        return f"{self.kind}:{self.key}"


class Stamp(models.Model):
    """One row that grows with every change, so that a kept snapshot knows when it is old."""

    number = models.PositiveIntegerField(default=0)
