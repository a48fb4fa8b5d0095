"""What stands between a plan and its release."""

from __future__ import annotations

from dataclasses import dataclass

from machining.evaluation import Evaluation
from machining.findings.finding import Finding, in_words
from machining.plan.document import Plan as Document
from shop.accounts.models import User
from shop.jobs import documents, evaluation
from shop.jobs.models import Plan, PlanRevision

from .models import Acceptance


@dataclass
class Review:
    head: PlanRevision
    document: Document
    evaluation: Evaluation
    accepted: dict[str, Acceptance]
    against: list[str]

    @property
    def looks(self) -> list[Finding]:
        return [f for f in self.evaluation.findings if f.severity == "look"]


def review(user: User, plan: Plan) -> Review:
    """The plan's answers with what was accepted, and each reason (a sentence) against releasing it now."""
    head = documents.head(plan)
    document = documents.read(head.document)
    library = documents.library_for(document)
    answer = evaluation.answer(head.document_id, document, library)
    accepted = {}
    for row in Acceptance.objects.filter(plan=plan).select_related("by"):
        accepted[row.finding] = row
    valid = {f.key: accepted[f.key] for f in answer.findings if f.key in accepted and accepted[f.key].seen == in_words(f)}
    against = _against(answer, valid, document)
    last = PlanRevision.objects.filter(plan=plan, kind__in=("edit", "import")).select_related("by").latest("number")
    if "release" not in user.rights:
        against.append(f"The role {user.role} doesn't release.")
    elif last.by_id == user.pk and not library.settings.approver_may_be_editor:
        against.append("You changed this plan last; somebody else has to release it.")
    newest = plan.releases.order_by("-number").first()
    if newest is not None and newest.revision.document_id == head.document_id:
        against.append(f"Nothing has changed since release {newest.number}.")
    return Review(head, document, answer, valid, against)


def _against(answer: Evaluation, accepted: dict[str, Acceptance], document: Document) -> list[str]:
    against = []
    if answer.problem:
        against.append(answer.problem)
    if not any(s.operations for s in document.setups):
        against.append("The plan has no operation yet.")
    if stops := answer.count("stop"):
        against.append(f"{stops} finding{'s' if stops > 1 else ''} will not work as planned.")
    waiting = [f for f in answer.findings if f.severity == "look" and f.key not in accepted]
    if waiting:
        against.append(f"{len(waiting)} finding{'s' if len(waiting) > 1 else ''} to look at {'are' if len(waiting) > 1 else 'is'} not accepted yet.")
    unknown = [o for s in answer.setups for o in s.operations if any(a.state in ("unknown", "working") for a in o.answers.values())]
    if unknown:
        against.append(f"{len(unknown)} operation{'s have' if len(unknown) > 1 else ' has'} a question without an answer.")
    return against
