import gc

from django.apps import AppConfig

# An evaluation makes tens of thousands of small values, and most of them stay: looking through all
# of them at every 700th is a tenth of its time.
EVERY = (20_000, 5, 5)


class BaseConfig(AppConfig):
    name = "shop.base"

    def ready(self) -> None:
        gc.set_threshold(*EVERY)
