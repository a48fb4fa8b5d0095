from __future__ import annotations

from django.conf import settings
from django.db import models


class Entry(models.Model):
    """One line of the record: who did what, on what, when. ``before`` and ``after`` are hashes of
    what was changed, where it has content.
    """

    at = models.DateTimeField(auto_now_add=True, db_index=True)
    by = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.PROTECT, null=True, related_name="+"
    )
    what = models.CharField(max_length=40, db_index=True)
    on = models.CharField(max_length=120, db_index=True)
    before = models.CharField(max_length=64, blank=True)
    after = models.CharField(max_length=64, blank=True)
    about = models.JSONField(default=dict)

    class Meta:
        ordering = ["-id"]
