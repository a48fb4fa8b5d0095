from django.apps import AppConfig


class JobsConfig(AppConfig):
    name = "shop.jobs"

    def ready(self) -> None:
        from shop.library.uses import told_by

        from .uses import used_by_plans

        told_by(used_by_plans)
