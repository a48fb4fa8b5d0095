"""What stands between a plan and its release."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

from machining.plan.document import Plan as Document
from machining.quantities.said import Shown, fill
from shop.accounts.models import User
from shop.jobs import documents, evaluation
from shop.jobs.models import Job, Plan, PlanRevision
from shop.library.snapshot import snapshot

from .models import Acceptance, Release
from .stale import stale

MOST_PLACES = 3  # that are named of what still stands
WORKING = "The plan is still being worked out."


@dataclass
class Review:
    """``evaluation`` is None while it is being worked out; ``kept`` are the findings the planner
    leaves as they are, ``stale`` is what the newest release stands on and has changed since.
    """

    head: PlanRevision
    document: Document
    evaluation: dict[str, Any] | None
    accepted: dict[str, Acceptance] = field(default_factory=dict)
    against: list[str] = field(default_factory=list)
    newest: Release | None = None
    stale: tuple[str, ...] = ()

    @property
    def findings(self) -> list[dict[str, Any]]:
        return self.evaluation["findings"] if self.evaluation else []

    @property
    def kept(self) -> list[dict[str, Any]]:
        return [f for f in self.findings if f["kept"]]


def sentence_of(finding: dict[str, Any]) -> str:
    """A finding of an evaluation in metric words."""
    return _filled(finding["message"], finding["values"])


def _filled(text: str, values: dict[str, Any]) -> str:
    """A text of an evaluation with its values, in metric words."""
    return fill(
        text, {name: Shown(shown["value"], shown["quantity"]) for name, shown in values.items()}
    )


def review(user: User, plan: Plan, patient: bool = True) -> Review:
    """The plan's answers with what was accepted, and each reason (a sentence) against releasing it
    now.
    """
    head = documents.head(plan)
    document = documents.read(head.document)
    newest = Release.of_job(plan).order_by("-number").select_related("revision").first()
    looked = Review(head, document, None, newest=newest)
    try:
        looked.evaluation = evaluation.plain(
            evaluation.Subject(document, head.document_id, document.model_dump_json(), plan.pk),
            patient,
        )
    except evaluation.Working:
        looked.against.append(WORKING)
        return looked
    known = {row.finding: row for row in Acceptance.objects.filter(plan=plan).select_related("by")}
    looked.accepted = {
        f["key"]: known[f["key"]]
        for f in looked.findings
        if f["key"] in known and known[f["key"]].seen == sentence_of(f)
    }
    looked.against = _against(looked)
    last = (
        PlanRevision.objects.filter(plan=plan, kind__in=("edit", "import"))
        .select_related("by")
        .latest("number")
    )
    if "release" not in user.rights:
        looked.against.append(f"The role {user.role} doesn't release.")
    elif last.by_id == user.pk and not snapshot().settings.approver_may_be_editor:
        looked.against.append("You changed this plan last; somebody else has to release it.")
    if not plan.is_chosen:
        looked.against.append("The job goes by another of its plans: choose this one first.")
    looked.stale = stale(newest) if newest is not None else ()
    if newest is not None and is_same(newest, head, plan.job):
        looked.against.append(f"Nothing has changed since release {newest.number}.")
    return looked


def is_same(release: Release, head: PlanRevision, job: Job) -> bool:
    """Would a release now say just what this one says?"""
    same_words = (release.title, release.revision_letter) == (job.title, job.revision)
    return release.revision.document_id == head.document_id and same_words and not stale(release)


def _against(looked: Review) -> list[str]:
    answer, against = looked.evaluation or {}, []
    if answer["problem"]:
        against.append(answer["problem"])
    if not any(s.operations for s in looked.document.setups):
        against.append("The plan has no operation yet.")
    if stops := sum(f["severity"] == "stop" for f in looked.findings):
        against.append(f"{stops} finding{'s' if stops > 1 else ''} will not work as planned.")
    waiting = [
        f
        for f in looked.findings
        if f["severity"] == "look" and not f["kept"] and f["key"] not in looked.accepted
    ]
    if waiting:
        against.append(
            f"{len(waiting)} finding{'s' if len(waiting) > 1 else ''} to look at"
            f" {'are' if len(waiting) > 1 else 'is'} not accepted yet."
        )
    against += not_finished(answer["left"])
    unknown = [
        o
        for s in answer["setups"]
        for o in s["operations"]
        if any(a["state"] in ("unknown", "working") for a in o["answers"].values())
    ]
    if unknown:
        against.append(
            f"{len(unknown)} operation{'s have' if len(unknown) > 1 else ' has'} a question without"
            " an answer."
        )
    return against


def not_finished(left: list[dict[str, Any]]) -> list[str]:
    """Where metal still stands after the last setup: a sentence in metric words, or none."""
    places = [_filled(each["where"]["text"], each["where"]["values"]) for each in left]
    if not places:
        return []
    more = f" and in {len(places) - MOST_PLACES} more places" if len(places) > MOST_PLACES else ""
    return [f"Not finished: metal still stands {', '.join(places[:MOST_PLACES])}{more}."]
