"""Append a revision to a plan: by edits, by undoing, by doing again, by importing. Nothing is ever
rewritten.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django.db import IntegrityError, transaction
from pydantic import TypeAdapter, ValidationError

from machining.exchange.plan_json import uses
from machining.plan.apply import EditRefused, apply
from machining.plan.document import Plan as Document
from machining.plan.edit import Edit
from machining.plan.touches import meet
from machining.quantities.errors import MachiningError
from shop.accounts.models import User
from shop.base.actions import did, require
from shop.base.problems import Refused
from shop.library.snapshot import snapshot

from .. import documents
from ..models import Plan, PlanRevision, PlanUse

EDITS: TypeAdapter[list[Edit]] = TypeAdapter(list[Edit])


def edit(user: User, plan: Plan, seen: int, edits: Sequence[Edit]) -> PlanRevision:
    """Raises Refused with 409 where somebody else was faster, EditRefused where an edit can't be
    done.
    """
    require(user, "plan")
    head = documents.head(plan)
    if head.number != seen:
        raise _conflict(plan, head, seen, edits)
    return edit_document(user, plan, head, apply(documents.read(head.document), edits), edits)


def edit_document(
    user: User,
    plan: Plan,
    head: PlanRevision,
    document: Document,
    edits: Sequence[Edit],
    kind: str = "edit",
) -> PlanRevision:
    plain = [each.model_dump(mode="json") for each in edits]
    return _append(
        user, plan, head, document, kind, plain, state=head.number + 1, before=head.state, redo=[]
    )


def undo(user: User, plan: Plan, seen: int) -> PlanRevision:
    """The document before the last edit that still stands. Raises Refused where there is none."""
    require(user, "plan")
    head = _expected(plan, seen)
    before = PlanRevision.objects.get(plan=plan, number=head.state).before
    if before is None:
        raise Refused("There is nothing to undo.")
    target = PlanRevision.objects.select_related("document").get(plan=plan, number=before)
    return _append(
        user,
        plan,
        head,
        documents.read(target.document),
        "undo",
        [],
        state=target.state,
        before=None,
        redo=[*head.redo, head.state],
    )


def redo(user: User, plan: Plan, seen: int) -> PlanRevision:
    """The edit undone last, done again. Raises Refused where there is none."""
    require(user, "plan")
    head = _expected(plan, seen)
    if not head.redo:
        raise Refused("There is nothing to do again.")
    target = PlanRevision.objects.select_related("document").get(plan=plan, number=head.redo[-1])
    return _append(
        user,
        plan,
        head,
        documents.read(target.document),
        "redo",
        [],
        state=target.state,
        before=None,
        redo=head.redo[:-1],
    )


def begin(user: User, plan: Plan, document: Document) -> PlanRevision:
    """A new plan's first revision."""
    return _append(user, plan, None, document, "import", [], state=1, before=None, redo=[])


def can_undo(plan: Plan, head: PlanRevision) -> bool:
    return PlanRevision.objects.get(plan=plan, number=head.state).before is not None


def _expected(plan: Plan, seen: int) -> PlanRevision:
    head = documents.head(plan)
    if head.number != seen:
        raise _conflict(plan, head, seen, [])
    return head


def _append(
    user: User,
    plan: Plan,
    head: PlanRevision | None,
    document: Document,
    kind: str,
    edits: list[Any],
    state: int,
    before: int | None,
    redo: list[int],
) -> PlanRevision:
    number = head.number + 1 if head else 1
    used = uses(document, snapshot())
    try:
        with transaction.atomic():
            row = PlanRevision.objects.create(
                plan=plan,
                number=number,
                document=documents.store(document),
                kind=kind,
                edits=edits,
                state=state,
                before=before,
                redo=redo,
                by=user,
            )
            _show(plan, row, document)
            _rewrite_uses(plan, {(name, key) for name, keys in used.items() for key in keys})
            did(
                user,
                f"plan {kind}" if head else "plan begun",
                f"plan:{plan.pk}",
                head.document_id if head else "",
                row.document_id,
                job=plan.job.number,
                revision=number,
            )
    except IntegrityError as problem:
        raise _conflict(
            plan, documents.head(plan), number - 1, EDITS.validate_python(edits)
        ) from problem
    return row


def _show(plan: Plan, head: PlanRevision, document: Document) -> None:
    """What the list of jobs shows of the newest revision."""
    part = bool(document.part.geometry or document.part.typed or document.setups)
    Plan.objects.filter(pk=plan.pk).update(
        head=head,
        material=document.material,
        quantity=document.quantity,
        has_part=part,
        setups=len(document.setups),
        unread="",
    )


def _rewrite_uses(plan: Plan, wanted: set[tuple[str, str]]) -> None:
    known = {(use.kind, use.key): use for use in plan.uses.all()}
    PlanUse.objects.filter(
        pk__in=[use.pk for place, use in known.items() if place not in wanted]
    ).delete()
    PlanUse.objects.bulk_create(
        [PlanUse(plan=plan, kind=kind, key=key) for kind, key in wanted - known.keys()]
    )


def _conflict(plan: Plan, head: PlanRevision, seen: int, mine: Sequence[Edit]) -> Refused:
    since = (
        PlanRevision.objects.filter(plan=plan, number__gt=seen)
        .select_related("by")
        .order_by("number")
    )
    undone = any(row.kind in ("undo", "redo") for row in since)
    try:
        theirs = EDITS.validate_python([each for row in since for each in row.edits])
    except ValidationError:  # edits of an earlier format
        theirs, undone = [], True
    try:
        apply(documents.read(head.document), mine)
        applies, why = True, ""
    except (EditRefused, MachiningError) as problem:
        applies, why = False, str(problem)
    return Refused(
        f"{head.by.username} changed this plan meanwhile.",
        status=409,
        head=head.number,
        by=sorted({row.by.username for row in since}),
        since=[each.model_dump(mode="json") for each in theirs],
        applies=applies,
        why=why,
        meets=sorted(meet(mine, theirs)) if not undone else ["everything"],
    )
