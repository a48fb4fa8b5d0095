"""The one API object; each application brings its router."""

from __future__ import annotations

from ninja import NinjaAPI
from ninja.security import django_auth

from shop.accounts.api import router as accounts
from shop.base.problems import install
from shop.bench.api import router as bench
from shop.bench.holes import router as holes
from shop.bench.slopes import router as slopes
from shop.jobs.api import router as jobs
from shop.jobs.plans import router as plans
from shop.library.api import router as library
from shop.releases.api import router as releases
from shop.tasks.api import router as tasks

api = NinjaAPI(title="Fabrotax", version="1", auth=django_auth, docs_url=None, openapi_url=None, urls_namespace="api")
install(api)
for place, router in (("", accounts), ("", library), ("", jobs), ("", plans), ("", releases), ("", tasks), ("", bench), ("", holes), ("", slopes)):
    api.add_router(place, router)
