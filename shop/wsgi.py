import os

from django.core.wsgi import get_wsgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "shop.settings")
application = get_wsgi_application()

from shop.jobs.actions.warm import warm_aside  # noqa: E402

warm_aside()
