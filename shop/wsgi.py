import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "shop.settings")
application = get_wsgi_application()

from shop.base.orphan import end_with_parent  # noqa: E402
from shop.jobs.actions.warm import warm_aside  # noqa: E402

warm_aside()
end_with_parent()
