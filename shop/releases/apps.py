from django.apps import AppConfig


class ReleasesConfig(AppConfig):
    name = "shop.releases"
