from __future__ import annotations

from django.conf import settings
from django.db import models

USER = settings.AUTH_USER_MODEL


class Job(models.Model):
    """A part to be made: what is looked up and sorted. What is decided about it stands in its
    plans, of which it goes by the ``chosen`` one, the first while nobody chose. ``touched`` counts
    changes of its fields.
    """

    number = models.CharField(max_length=40, unique=True)
    title = models.CharField(max_length=120)
    revision = models.CharField(max_length=10, blank=True)
    due = models.DateField(null=True)
    remark = models.CharField(max_length=500, blank=True)
    chosen = models.ForeignKey("Plan", on_delete=models.SET_NULL, null=True, related_name="+")
    touched = models.PositiveIntegerField(default=1)
    made_at = models.DateTimeField(auto_now_add=True)
    made_by = models.ForeignKey(USER, on_delete=models.PROTECT, related_name="+")

    class Meta:
        ordering = ["number"]

    def __str__(self) -> str:
        return self.number


class Geometry(models.Model):
    """A solid read from a STEP file; ``key`` names file, solid and how it is laid, ``which`` of
    several solids it is (from 0), the rest are blobs.
    """

    key = models.CharField(max_length=64, primary_key=True)
    which = models.IntegerField(null=True)
    step = models.CharField(max_length=64)
    solid = models.CharField(max_length=64)
    mesh = models.CharField(max_length=64)
    file_name = models.CharField(max_length=120)


class PlanDocument(models.Model):
    """A plan's text, stored once by the hash of its content."""

    sha256 = models.CharField(max_length=64, primary_key=True)
    text = models.TextField()


class Answer(models.Model):
    """What the list of jobs shows of a document's evaluation. What was too large to work out is not
    tried again by this engine.
    """

    document = models.OneToOneField(
        PlanDocument, on_delete=models.CASCADE, primary_key=True, related_name="answer"
    )
    engine = models.CharField(max_length=20)
    stops = models.PositiveIntegerField(default=0)
    looks = models.PositiveIntegerField(default=0)
    open = models.PositiveIntegerField(default=0)
    ready = models.BooleanField(default=False)
    problem = models.TextField(blank=True)
    too_large = models.BooleanField(default=False)


class Plan(models.Model):
    """One way to make a job's part; ``note`` says why it was chosen or set aside, ``copied`` what
    it was copied from. ``head`` and what stands beside it are what the list of jobs shows;
    ``unread`` says why the head can't be read.
    """

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="plans")
    name = models.CharField(max_length=60, default="Plan")
    note = models.CharField(max_length=300, blank=True)
    copied = models.ForeignKey("self", on_delete=models.SET_NULL, null=True, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    head = models.OneToOneField(
        "PlanRevision", on_delete=models.PROTECT, null=True, related_name="+"
    )
    material = models.CharField(max_length=80, blank=True)
    quantity = models.PositiveIntegerField(default=1)
    has_part = models.BooleanField(default=False)
    setups = models.PositiveSmallIntegerField(default=0)
    unread = models.TextField(blank=True)

    @property
    def is_chosen(self) -> bool:
        """Does its job go by it?"""
        if self.job.chosen_id is not None:
            return self.job.chosen_id == self.pk
        return not Plan.objects.filter(job=self.job_id, pk__lt=self.pk).exists()


class PlanRevision(models.Model):
    """Append-only. ``state`` is the number of the edit whose document this is; ``redo`` those that
    can be done again.
    """

    plan = models.ForeignKey(Plan, on_delete=models.CASCADE, related_name="revisions")
    number = models.PositiveIntegerField()
    document = models.ForeignKey(PlanDocument, on_delete=models.PROTECT, related_name="+")
    kind = models.CharField(
        max_length=6, choices=[(k, k) for k in ("edit", "undo", "redo", "import")]
    )
    edits = models.JSONField(default=list)
    state = models.PositiveIntegerField()
    before = models.PositiveIntegerField(null=True)
    redo = models.JSONField(default=list)
    by = models.ForeignKey(USER, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["plan", "number"], name="revision_once")]
        ordering = ["plan", "number"]


class PlanUse(models.Model):
    """Library items the head of a plan stands on, rewritten with each revision."""

    plan = models.ForeignKey(Plan, on_delete=models.CASCADE, related_name="uses")
    kind = models.CharField(max_length=12)
    key = models.CharField(max_length=60)

    class Meta:
        indexes = [models.Index(fields=["kind", "key"])]
