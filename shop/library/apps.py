from django.apps import AppConfig


class LibraryConfig(AppConfig):
    name = "shop.library"
