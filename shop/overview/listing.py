"""The list of jobs: one query for a page of it, whatever the number of jobs."""

from __future__ import annotations

from typing import Any, Literal, get_args

from django.db.models import (
    BooleanField,
    Case,
    CharField,
    Count,
    Exists,
    ExpressionWrapper,
    F,
    OuterRef,
    Q,
    QuerySet,
    Subquery,
    Value,
    When,
    Window,
)
from django.db.models.functions import Coalesce

from shop.accounts.models import User
from shop.jobs.models import Job, Plan, PlanUse
from shop.library.models import Item
from shop.releases.models import Release

State = Literal["unreadable", "empty", "stops", "open", "waits", "released"]
Sort = Literal["number", "title", "material", "quantity", "due", "state", "changed"]
PAGE = 50
_ORDER: dict[str, tuple[str, ...]] = {
    "number": ("job__number",),
    "title": ("job__title", "job__number"),
    "material": ("material_name", "job__number"),
    "quantity": ("quantity", "job__number"),
    "due": ("job__due", "job__number"),
    "state": ("rank", "job__number"),
    "changed": ("head__at", "job__number"),
}
# what waits for whom: a planner for what is not ready, an approver for what is
YOURS: dict[str, tuple[State, ...]] = {
    "planner": ("unreadable", "empty", "stops", "open"),
    "approver": ("waits",),
    "operator": (),
}


def _state(same: Q) -> Case:
    """``same`` is a plan that is as it was released."""
    return Case(
        When(~Q(unread=""), then=Value("unreadable")),
        When(Q(setups=0), then=Value("empty")),
        When(same, then=Value("released")),
        When(Q(head__document__answer__stops__gt=0), then=Value("stops")),
        When(Q(head__document__answer__ready=True), then=Value("waits")),
        default=Value("open"),
        output_field=CharField(),
    )


def rows() -> QuerySet[Plan]:
    """One row a job (the plan it goes by), with state, newest release and whether the library
    changed under it.
    """
    newest = Release.objects.filter(plan__job=OuterRef("job")).order_by("-number")
    first = Plan.objects.filter(job=OuterRef("job")).order_by("pk").values("pk")[:1]
    used = PlanUse.objects.filter(
        plan=OuterRef(OuterRef("pk")), kind=OuterRef("kind"), key=OuterRef("key")
    )
    same = (
        Q(released_document=F("head__document"))
        & Q(released_title=F("job__title"))
        & Q(released_letter=F("job__revision"))
    )
    rank = Case(
        *(When(state=name, then=Value(place)) for place, name in enumerate(get_args(State)))
    )
    return (
        Plan.objects.filter(pk=Coalesce(F("job__chosen"), Subquery(first)))
        .select_related("job", "head__by", "head__document__answer")
        .defer("head__document__text", "head__edits", "head__redo")
        .annotate(
            released_number=Subquery(newest.values("number")[:1]),
            released_document=Subquery(newest.values("revision__document")[:1]),
            released_title=Subquery(newest.values("title")[:1]),
            released_letter=Subquery(newest.values("revision_letter")[:1]),
            material_name=Coalesce(
                Subquery(
                    Item.objects.filter(kind="materials", key=OuterRef("material")).values(
                        "data__name"
                    )[:1]
                ),
                F("material"),
                output_field=CharField(),
            ),
            library_changed=Exists(
                Item.objects.filter(changed_at__gt=OuterRef("head__at"), revision__gt=1).filter(
                    Exists(used)
                )
            ),
        )
        .annotate(
            state=_state(same),
            changed=ExpressionWrapper(
                Q(released_number__isnull=False) & ~same, output_field=BooleanField()
            ),
        )
        .annotate(rank=rank)
    )


def page_of(
    user: User, find: str, state: str, sort: Sort, down: bool, page: int, most: int
) -> tuple[int, list[Plan]]:
    """How many jobs match, and one page of them."""
    found: QuerySet[Any] = rows()
    for word in find.split()[:8]:
        found = found.filter(
            Q(job__number__icontains=word)
            | Q(job__title__icontains=word)
            | Q(material_name__icontains=word)
        )
    if state == "yours":
        found = found.filter(Q(state__in=YOURS[user.role]))
    elif state == "changed":
        found = found.filter(changed=True)
    elif state:
        found = found.filter(state=state)
    order = [
        F(name).desc(nulls_last=True) if down else F(name).asc(nulls_last=True)
        for name in _ORDER[sort]
    ]
    listed = list(
        found.annotate(all=Window(Count("pk"))).order_by(*order)[page * most : (page + 1) * most]
    )
    return (listed[0].all if listed else found.count() if page else 0), listed


def out(row: Any) -> dict[str, Any]:
    job, head, answer = row.job, row.head, getattr(row.head.document, "answer", None)
    return {
        "id": job.pk,
        "number": job.number,
        "title": job.title,
        "revision": job.revision,
        "due": job.due,
        "remark": job.remark,
        "plan": row.pk,
        "draft": head.number,
        "changed_at": head.at,
        "changed_by": head.by.username,
        "material": row.material,
        "quantity": row.quantity,
        "has_part": row.has_part,
        "setups": row.setups,
        "released": row.released_number,
        "changed": row.changed,
        "library_changed": row.library_changed,
        "state": row.state,
        "unread": row.unread,
        "answered": answer is not None,
        "stops": answer.stops if answer else 0,
        "looks": answer.looks if answer else 0,
        "unknown": answer.open if answer else 0,
        "problem": answer.problem if answer else "",
        "touched": job.touched,
    }


def one(job: Job) -> dict[str, Any]:
    return out(rows().get(job=job))


def affected(row: dict[str, Any]) -> list[str]:
    """Names of library items a plan stands on that were changed after its last draft."""
    used = {(use.kind, use.key) for use in PlanUse.objects.filter(plan=row["plan"])}
    changed = Item.objects.filter(changed_at__gt=row["changed_at"], revision__gt=1)
    return [
        str(item.data.get("name", item.key)) for item in changed if (item.kind, item.key) in used
    ]
