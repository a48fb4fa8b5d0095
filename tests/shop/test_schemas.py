"""What is written for the client by its name alone has a name of its own."""

from __future__ import annotations

from collections import defaultdict

from ninja import Schema

from shop.api import api


def test_no_two_schemas_have_one_name():
    assert api.urls_namespace == "api"
    found, left = defaultdict[str, set[str]](set), [Schema]
    while left:
        for each in left.pop().__subclasses__():
            if each.__module__.startswith("shop."):
                found[each.__name__].add(each.__module__)
            left.append(each)
    assert len(found) > 50
    assert {name: where for name, where in found.items() if len(where) > 1} == {}
