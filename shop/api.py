"""The one API object; each application brings its router."""

from __future__ import annotations

from typing import Any

from ninja import NinjaAPI
from ninja.openapi.schema import OpenAPISchema
from ninja.security import django_auth

from shop.accounts.api import router as accounts
from shop.base.api import router as record
from shop.base.problems import Problem, install
from shop.bench.api import router as bench
from shop.bench.holes import router as holes
from shop.bench.slopes import router as slopes
from shop.jobs.api import router as jobs
from shop.jobs.holds import router as holds
from shop.jobs.magazine import router as magazine
from shop.jobs.orders import router as orders
from shop.jobs.other_ways import router as other_ways
from shop.jobs.plans import router as plans
from shop.jobs.proposals import router as proposals
from shop.jobs.times import router as times
from shop.jobs.variants import router as variants
from shop.library.api import router as library
from shop.library.timing import router as timing
from shop.overview.api import router as overview
from shop.releases.api import router as releases
from shop.tasks.api import router as tasks

# what any request can be answered instead of what it asks for, and when
REFUSALS = {
    400: "what was sent is no JSON",
    401: "nobody is signed in",
    403: "the role may not, or the token is missing",
    404: "it is not there",
    405: "there is no such method here",
    409: "somebody was faster",
    411: "it does not say how long it is",
    413: "it is too large",
    422: "a value is refused; the sentence names field, value and range",
    429: "too many wrong passwords",
    500: "a fault of the program",
    503: "it is still being worked out; ask again",
    507: "there is no room to store it",
}
# said by the server in front
TOO_LONG = {
    "description": "its address is too long",
    "content": {"text/html": {"schema": {"type": "string"}}},
}


class Api(NinjaAPI):
    """Every operation declares its refusals: they have one shape."""

    def get_openapi_schema(self, **more: Any) -> OpenAPISchema:
        described = super().get_openapi_schema(**more)
        described["components"].setdefault("schemas", {})["Problem"] = Problem.model_json_schema(
            ref_template="#/components/schemas/{model}"
        )
        inner = described["components"]["schemas"]["Problem"].pop("$defs", {})
        described["components"]["schemas"].update(inner)
        content = {"application/json": {"schema": {"$ref": "#/components/schemas/Problem"}}}
        for methods in described["paths"].values():
            for operation in methods.values():
                operation["responses"] |= {
                    code: {"description": words, "content": content}
                    for code, words in REFUSALS.items()
                    if code not in operation["responses"]
                } | {414: TOO_LONG}
        return described


api = Api(
    title="Fabrotax",
    version="1",
    auth=django_auth,
    docs_url=None,
    openapi_url=None,
    urls_namespace="api",
)
install(api)
for place, router in (
    ("", accounts),
    ("", record),
    ("", library),
    ("", timing),
    ("", overview),
    ("", jobs),
    ("", holds),
    ("", times),
    ("", orders),
    ("", other_ways),
    ("", magazine),
    ("", variants),
    ("", proposals),
    ("", plans),
    ("", releases),
    ("", tasks),
    ("", bench),
    ("", holes),
    ("", slopes),
):
    api.add_router(place, router)
