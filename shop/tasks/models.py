from __future__ import annotations

from django.conf import settings
from django.db import models


class Task(models.Model):
    """Work for the worker process. A dead heartbeat puts it back once, then it fails."""

    kind = models.CharField(max_length=20)
    state = models.CharField(
        max_length=10,
        default="waiting",
        choices=[(s, s) for s in ("waiting", "working", "done", "failed", "cancelled")],
    )
    about = models.JSONField(default=dict)
    result = models.JSONField(default=dict)
    progress = models.FloatField(default=0.0)
    message = models.CharField(max_length=300, blank=True)
    cancel = models.BooleanField(default=False)
    tries = models.PositiveSmallIntegerField(default=0)
    heartbeat = models.DateTimeField(null=True)
    made_at = models.DateTimeField(auto_now_add=True)
    made_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+"
    )

    class Meta:
        ordering = ["id"]
