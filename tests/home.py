"""Loaded before anything else: gives every run a home of its own, so that nothing of a developer's
is read or written.
"""

from __future__ import annotations

import os
import tempfile

if "PYTEST_XDIST_WORKER" not in os.environ:
    os.environ["FABROTAX_HOME"] = tempfile.mkdtemp(prefix="fabrotax-test-")
