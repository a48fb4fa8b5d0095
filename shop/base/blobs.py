"""Files by the hash of their content, under ``FABROTAX_HOME/blobs``. Written once, never changed."""

from __future__ import annotations

import os
from hashlib import sha256
from pathlib import Path
from tempfile import NamedTemporaryFile

from django.conf import settings


def path_of(name: str) -> Path:
    return Path(settings.BLOBS) / name[:2] / name


def put(content: bytes) -> str:
    """Store and return the SHA-256; storing the same content again changes nothing."""
    name = sha256(content).hexdigest()
    path = path_of(name)
    if not path.exists():
        path.parent.mkdir(parents=True, exist_ok=True)
        with NamedTemporaryFile(dir=path.parent, delete=False) as file:
            file.write(content)
        os.replace(file.name, path)
    return name


def get(name: str) -> bytes:
    """Raises FileNotFoundError."""
    return path_of(name).read_bytes()
