"""What earlier versions stored is carried over."""

from __future__ import annotations

from importlib import import_module

from django.apps import apps

from shop.jobs.models import PlanUse
from shop.library.models import Item
from shop.library.snapshot import snapshot
from tests.core import lathe

from .conftest import put_plan


def test_vises_and_chucks_become_one_table(planner, library):
    """With a table each, both could call something by the same key."""
    plan = put_plan(planner, lathe.plan(*lathe.GOOD), "T-1")
    Item.objects.filter(kind="holdings", data__kind="vise").update(kind="vises")
    Item.objects.filter(kind="holdings").update(kind="chucks")
    twin = Item.objects.get(kind="chucks", key="chuck-200")
    Item.objects.create(kind="chucks", key="vise-125", data={**twin.data, "key": "vise-125"})
    PlanUse.objects.filter(kind="holdings").update(kind="chucks")
    import_module("shop.library.migrations.0003_one_table_of_holdings").into_one(apps, None)
    import_module("shop.jobs.migrations.0003_one_table_of_holdings").into_one(apps, None)
    now = snapshot()
    assert now.vises == library.vises
    assert set(now.chucks) == {*library.chucks, "vise-125-chuck"}
    assert set(PlanUse.objects.filter(plan=plan).values_list("kind", flat=True)) >= {"holdings"}
    assert not PlanUse.objects.filter(kind__in=("vises", "chucks")).exists()
