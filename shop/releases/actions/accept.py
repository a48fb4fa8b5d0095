"""Accept a finding to look at, in writing."""

from __future__ import annotations

from machining.findings.finding import in_words
from shop.accounts.models import User
from shop.base.actions import did, require
from shop.base.problems import Refused
from shop.jobs.models import Plan

from ..models import Acceptance
from ..review import review


def accept(user: User, plan: Plan, finding: str, note: str) -> Acceptance:
    """Raises Refused for a stop, for a finding that isn't there, and without a reason."""
    require(user, "release")
    note = note.strip()
    if len(note) < 3:
        raise Refused("note: write why this may stay as it is.", "note", note)
    found = next((f for f in review(user, plan).evaluation.findings if f.key == finding), None)
    if found is None:
        raise Refused("This finding is gone; the plan has changed.", "finding", finding, status=409)
    if found.severity == "stop":
        raise Refused("What will not work as planned can't be accepted; change the plan.", "finding", finding)
    row = Acceptance.objects.create(plan=plan, finding=finding, seen=in_words(found), note=note[:300], by=user)
    did(user, "finding accept", plan=plan.pk, finding=finding)
    return row
