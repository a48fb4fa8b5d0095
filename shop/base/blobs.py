"""Files by the hash of their content, under ``FABROTAX_HOME/blobs``. Written once, never changed,
readable by their owner only.
"""

from __future__ import annotations

import os
from contextlib import suppress
from hashlib import sha256
from pathlib import Path
from tempfile import NamedTemporaryFile

from django.conf import settings


class Spoiled(Exception):
    """A stored file that no longer holds what its name says."""

    def __init__(self, name: str) -> None:
        super().__init__(f"The stored file {name[:12]}… no longer holds what was stored.")
        self.name = name


def path_of(name: str) -> Path:
    return Path(settings.BLOBS) / name[:2] / name


def put(content: bytes) -> str:
    """Store and return the SHA-256; storing the same content again changes nothing. No half file
    stays where there is no room.
    """
    name = sha256(content).hexdigest()
    path = path_of(name)
    if not path.exists():
        path.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        # closed below, and gone where it could not be written
        file = NamedTemporaryFile(dir=path.parent, prefix="part-", delete=False)  # noqa: SIM115
        try:
            with file:
                file.write(content)
                file.flush()
                os.fsync(file.fileno())
            os.replace(file.name, path)
        except OSError:
            with suppress(OSError):
                os.unlink(file.name)
            raise
    return name


def get(name: str) -> bytes:
    """Raises FileNotFoundError."""
    return path_of(name).read_bytes()


def get_checked(name: str) -> bytes:
    """The content, if it is still what was stored. Raises Spoiled, also for a file that is gone."""
    try:
        content = get(name)
    except OSError as problem:
        raise Spoiled(name) from problem
    if sha256(content).hexdigest() != name:
        raise Spoiled(name)
    return content


def put_anew(content: bytes) -> str:
    """Store in place of a spoiled file of the same name."""
    name = sha256(content).hexdigest()
    with suppress(Spoiled):
        get_checked(name)
        return name
    with suppress(OSError):
        path_of(name).unlink()
    return put(content)
