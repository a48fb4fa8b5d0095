"""Undo as a model: any run of edits, undoing and doing again leaves the plan where a plain list
says it is.
"""

from __future__ import annotations

import random

import pytest

from machining.plan.edit import Change
from shop.base.problems import Refused
from shop.jobs import documents
from shop.jobs.actions import revise
from shop.jobs.models import PlanRevision
from tests.core import build

from .conftest import put_plan


class Model:
    """What anybody expects of undo: a list of states and a place in it."""

    def __init__(self, value: int) -> None:
        self.states, self.at = [value], 0

    def edit(self, value: int) -> None:
        self.states = [*self.states[: self.at + 1], value]
        self.at += 1

    def undo(self) -> bool:
        if self.at == 0:
            return False
        self.at -= 1
        return True

    def redo(self) -> bool:
        if self.at == len(self.states) - 1:
            return False
        self.at += 1
        return True

    @property
    def value(self) -> int:
        return self.states[self.at]


@pytest.mark.parametrize("seed", range(8))
def test_any_run_of_steps_ends_where_the_model_does(planner, seed):
    plan = put_plan(planner, build.plan(quantity=1), f"H-{seed}")
    # the job began empty: that draft can be undone to as well
    model, dice = Model(documents.read(documents.head(plan).document).quantity), random.Random(seed)
    beginning = documents.read(PlanRevision.objects.get(plan=plan, number=1).document).quantity
    model.states, model.at = [beginning, model.value], 1
    for step in range(40):
        head = documents.head(plan).number
        kind = dice.choice(["edit", "edit", "undo", "undo", "redo"])
        if kind == "edit":
            revise.edit(
                planner.user, plan, head, [Change(on="plan", fields={"quantity": step + 100})]
            )
            model.edit(step + 100)
            possible = True
        else:
            possible = getattr(model, kind)()
            act = getattr(revise, kind)
            if possible:
                act(planner.user, plan, head)
            else:
                with pytest.raises(Refused, match="nothing to"):
                    act(planner.user, plan, head)
        now = documents.head(plan)
        assert now.number == head + (1 if possible else 0)
        assert documents.read(now.document).quantity == model.value
        assert revise.can_undo(plan, now) == (model.at > 0)
        assert bool(now.redo) == (model.at < len(model.states) - 1)


def test_the_whole_history_can_be_read_back(planner):
    plan = put_plan(planner, build.plan(quantity=1), "H-99")
    for k in range(5):
        revise.edit(planner.user, plan, 2 + k, [Change(on="plan", fields={"quantity": 10 + k})])
    kept = [
        documents.read(row.document).quantity
        for row in (
            PlanRevision.objects.filter(plan=plan, number__gt=2)
            .order_by("number")
            .select_related("document")
        )
    ]
    assert kept == [10, 11, 12, 13, 14]
    assert all(row.by == planner.user for row in PlanRevision.objects.filter(plan=plan))
