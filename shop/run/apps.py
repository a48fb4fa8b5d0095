from django.apps import AppConfig


class RunConfig(AppConfig):
    """Commands that start, fill and describe the whole program."""

    name = "shop.run"
