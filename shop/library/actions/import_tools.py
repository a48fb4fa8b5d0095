"""Take tools from a CSV file: looked at first, then all of it or nothing."""

from __future__ import annotations

from django.db import transaction

from machining.exchange.tool_library_csv import Line, read
from machining.world.upgrades import format_of
from shop.accounts.models import User
from shop.base.actions import did, hash_of, require
from shop.base.problems import Refused

from ..models import Item
from ..snapshot import snapshot
from .put import bump


def preview(content: bytes) -> list[Line]:
    """What each line would do to the library as it is now. Raises NotATable."""
    return read(content, snapshot().tools)


def import_tools(user: User, content: bytes) -> list[Line]:
    """Raises Refused where any line is wrong: then nothing has changed."""
    require(user, "library")
    with transaction.atomic():
        lines = preview(content)
        wrong = [line for line in lines if line.problem]
        if wrong:
            raise Refused(
                f"Line {wrong[0].number}: {wrong[0].problem} Nothing was taken.",
                wrong[0].field,
                wrong[0].key,
            )
        known = {item.key: item for item in Item.objects.filter(kind="tools")}
        taken = [
            line for line in lines if line.does in ("new", "changed") and line.tool is not None
        ]
        for line in taken:
            assert line.tool is not None
            item = known.get(line.key) or Item(kind="tools", key=line.key, revision=0)
            before = hash_of(item.data) if item.pk else ""
            item.format = format_of("tools")
            item.data, item.changed_by = line.tool.model_dump(mode="json"), user
            item.revision += 1
            item.save()
            did(
                user,
                "library item put",
                f"tools:{line.key}",
                before,
                hash_of(item.data),
                revision=item.revision,
                table=True,
            )
        if taken:
            bump()
    return lines
