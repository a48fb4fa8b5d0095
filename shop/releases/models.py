from __future__ import annotations

from django.conf import settings
from django.db import models

from shop.jobs.models import Plan, PlanRevision

USER = settings.AUTH_USER_MODEL


class Acceptance(models.Model):
    """A finding to look at, accepted in writing. ``seen`` is its sentence then: when the figures
    change it is void.
    """

    plan = models.ForeignKey(Plan, on_delete=models.CASCADE, related_name="acceptances")
    finding = models.CharField(max_length=120)
    seen = models.TextField()
    note = models.CharField(max_length=300)
    by = models.ForeignKey(USER, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ["id"]


class Release(models.Model):
    """A frozen plan. ``record`` is the blob of its canonical JSON, ``sha256`` that blob's hash."""

    plan = models.ForeignKey(Plan, on_delete=models.PROTECT, related_name="releases")
    number = models.PositiveIntegerField()
    code = models.SlugField(max_length=20, unique=True)
    revision = models.ForeignKey(PlanRevision, on_delete=models.PROTECT, related_name="+")
    sha256 = models.CharField(max_length=64)
    setups = models.PositiveSmallIntegerField()
    note = models.CharField(max_length=300, blank=True)
    title = models.CharField(max_length=120, blank=True)
    revision_letter = models.CharField(max_length=10, blank=True)
    by = models.ForeignKey(USER, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField()

    class Meta:
        constraints = [models.UniqueConstraint(fields=["plan", "number"], name="release_once")]
        ordering = ["plan", "number"]

    @staticmethod
    def of_job(plan: Plan) -> models.QuerySet[Release]:
        """Those of all plans of its job: they count on, whichever plan the job goes by."""
        return Release.objects.filter(plan__job=plan.job_id)

    @property
    def replaced_by(self) -> Release | None:
        newest = Release.of_job(self.plan).latest("number")
        return newest if newest.number > self.number else None


class Sheet(models.Model):
    """One setup's sheet of a release: the blob of its page."""

    release = models.ForeignKey(Release, on_delete=models.PROTECT, related_name="sheets")
    setup = models.PositiveIntegerField()
    body = models.CharField(max_length=64)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["release", "setup"], name="sheet_once")]
        ordering = ["setup"]


class Paper(models.Model):
    """A sheet as PDF on one paper, drawn once."""

    sheet = models.ForeignKey(Sheet, on_delete=models.PROTECT, related_name="papers")
    paper = models.CharField(max_length=10)
    pdf = models.CharField(max_length=64)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["sheet", "paper"], name="paper_once")]
