from django.apps import AppConfig


class JobsConfig(AppConfig):
    name = "shop.jobs"
