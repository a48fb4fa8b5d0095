"""Whole plans proposed for a part."""

from __future__ import annotations

from typing import Any

from ninja import Router, Schema
from pydantic import Field

from shop.accounts.signed_in import SignedIn
from shop.base.problems import RowId
from shop.tasks.api import TaskOut, bare

from .actions import long, propose
from .api import plan_of
from .held_schemas import SentenceOut
from .times import BuysOut

router = Router(tags=["plans"])


class ProposeIn(Schema):
    """On these machines, on any of the shop where none is named; ``afresh`` without the setups
    that are there, which else stay.
    """

    machines: list[str] = Field([], max_length=60)
    afresh: bool = False


class MissedOut(Schema):
    what: SentenceOut
    why: SentenceOut


class ProposedSetupOut(Schema):
    """A setup of a proposal: ``because`` says why it is so, ``instead`` what else was tried;
    ``edits`` bring it after those before it.
    """

    id: str
    machine: str
    sides: list[str]
    operations: int
    tools: int
    parts: int
    cycle_s: float
    because: list[SentenceOut]
    instead: list[MissedOut]
    edits: list[dict[str, Any]]


class ProposalOut(Schema):
    """A whole plan, or as far as one goes. ``for_what`` it is the best of: *setups*, *time*,
    *money*, *small* (all on the smallest machine), *other* (another way), *part* (nothing whole was
    found). ``first`` are edits that come before those of its setups; ``missed`` is what it could
    not plan, ``buys`` the tools of which the shop has too few.
    """

    machine: str
    for_what: list[str]
    whole: bool
    first: list[dict[str, Any]]
    setups: list[ProposedSetupOut]
    one_part_s: float
    batch_s: float
    build_s: float
    cost: float
    cost_whole: bool
    tools: int
    stops: list[SentenceOut]
    looks: list[SentenceOut]
    buys: list[BuysOut]
    unknown: int
    left_mm3: float
    missed: list[MissedOut]


class ElsewhereOut(Schema):
    """A machine that no proposal begins on: why, and what is missed after what was planned on
    it.
    """

    machine: str
    why: SentenceOut
    missed: list[MissedOut]


class ProposalsOut(Schema):
    """What was found so far, and the work on it; ``stale`` where the plan was changed since its
    ``draft`` was looked at. ``elsewhere`` are the other machines that were to be planned on, as far
    as they were looked at; with ``nothing_left`` the setups that are there leave nothing to plan.
    """

    task: TaskOut | None
    draft: int
    stale: bool
    machines: list[str]
    afresh: bool
    proposals: list[ProposalOut]
    elsewhere: list[ElsewhereOut]
    nothing_left: bool


@router.get("/plans/{id}/proposals", response=ProposalsOut)
def read_proposals(request: SignedIn, id: RowId) -> dict[str, Any]:
    """What was proposed for a plan last, as far as it is."""
    plan = plan_of(id)
    task = long.last(plan, propose.KIND)
    about, result = (task.about, task.result) if task is not None else ({}, {})
    return {
        "task": bare(task) if task is not None else None,
        "draft": about.get("draft", 0),
        "stale": task is not None and long.stale(task, plan),
        "machines": about.get("machines", []),
        "afresh": about.get("afresh", False),
        "proposals": [{"buys": [], **each} for each in result.get("proposals", [])],
        "elsewhere": result.get("elsewhere", []),
        "nothing_left": result.get("nothing_left", False),
    }


@router.post("/plans/{id}/proposals", response={202: TaskOut})
def ask_for_proposals(
    request: SignedIn, id: RowId, payload: ProposeIn
) -> tuple[int, dict[str, Any]]:
    """Have whole plans worked out for the part as it is; setups that are there stay."""
    return 202, bare(propose.start(request.user, plan_of(id), payload.machines, payload.afresh))
