"""Benchmarks use the fixtures of the tests they are about."""

from tests.browser.conftest import base_url, browser_type_launch_args  # noqa: F401
from tests.core.conftest import clamp_geometry, demo  # noqa: F401
from tests.shop.conftest import _patience, library, plan, planner  # noqa: F401
