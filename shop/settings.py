"""Settings of the application. Everything that differs between places comes from ``FABROTAX_*``
variables.
"""

from __future__ import annotations

import os
import re
from datetime import timedelta
from pathlib import Path
from typing import Any
from urllib.parse import urlsplit

from django.core.management.utils import get_random_secret_key

BASE_DIR = Path(__file__).resolve().parent.parent
HOME = Path(os.environ.get("FABROTAX_HOME", BASE_DIR / "home")).resolve()
os.umask(0o077)  # what the application writes is for its owner only
HOME.mkdir(parents=True, exist_ok=True)
HOME.chmod(0o700)
URL = os.environ.get("FABROTAX_URL", "http://127.0.0.1:8000").rstrip("/")
HTTPS = URL.startswith("https:")


def _secret_key() -> str:
    """Made once per home, readable by its owner only."""
    path = HOME / "secret.key"
    try:
        handle = os.open(path, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600)
    except FileExistsError:
        return path.read_text().strip()
    with os.fdopen(handle, "w") as file:
        file.write(get_random_secret_key())
    return path.read_text().strip()


SECRET_KEY = _secret_key()
DEBUG = os.environ.get("FABROTAX_DEBUG") == "1"
ALLOWED_HOSTS = sorted(
    {
        urlsplit(URL).hostname or "127.0.0.1",
        "127.0.0.1",
        "localhost",
        *filter(None, os.environ.get("FABROTAX_HOSTS", "").split(",")),
    }
)
CSRF_TRUSTED_ORIGINS = [URL]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "shop.base",
    "shop.accounts",
    "shop.library",
    "shop.tasks",
    "shop.jobs",
    "shop.releases",
    "shop.run",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "csp.middleware.CSPMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "shop.base.guard.bounded",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "shop.urls"
WSGI_APPLICATION = "shop.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "APP_DIRS": True,
        "OPTIONS": {"context_processors": ["django.template.context_processors.request"]},
    }
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": HOME / "fabrotax.sqlite3",
        "OPTIONS": {
            "transaction_mode": "IMMEDIATE",
            "timeout": 10,
            "init_command": (
                "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL; PRAGMA foreign_keys=ON;"
            ),
        },
        "TEST": {"NAME": HOME / "test.sqlite3"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
AUTH_USER_MODEL = "accounts.User"
# scrypt asks for memory rather than for time: a sign-in keeps no thread busy for long
PASSWORD_HASHERS = [
    "django.contrib.auth.hashers.ScryptPasswordHasher",
    "django.contrib.auth.hashers.PBKDF2PasswordHasher",
]
AUTHENTICATION_BACKENDS = [
    "axes.backends.AxesStandaloneBackend",
    "django.contrib.auth.backends.ModelBackend",
]
# wrong passwords are slowed for a name from an address; nobody else, and nobody for long
AXES_FAILURE_LIMIT = 5
AXES_COOLOFF_TIME = timedelta(seconds=30)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_RESET_COOL_OFF_ON_FAILURE_DURING_LOCKOUT = False
AXES_DISABLE_ACCESS_LOG = True
AXES_VERBOSE = False
AXES_ENABLE_ADMIN = False
SILENCED_SYSTEM_CHECKS = ["axes.W001", "axes.W002", "axes.W003"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator"},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
]

USE_TZ = True
TIME_ZONE = "UTC"
LANGUAGE_CODE = "en-gb"
STATIC_URL = "/static/"
STATIC_ROOT = HOME / "static"
STATIC_ROOT.mkdir(exist_ok=True)
WEB_BUILD = BASE_DIR / "build" / "web"
STATICFILES_DIRS = [WEB_BUILD] if WEB_BUILD.is_dir() else []
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "django.contrib.staticfiles.storage.StaticFilesStorage"},
}
WHITENOISE_USE_FINDERS = True
# asked for anew each time, but for names that carry the hash of their content
WHITENOISE_MAX_AGE = 0
_HASHED = re.compile(r"^/static/assets/.+-[\w-]{8}\.\w+$")


def WHITENOISE_IMMUTABLE_FILE_TEST(path: str, url: str) -> bool:  # noqa: N802 - a setting's name
    return _HASHED.match(url) is not None


def WHITENOISE_ADD_HEADERS_FUNCTION(headers: Any, path: str, url: str) -> None:  # noqa: N802
    if url.endswith(".html"):
        headers["Cache-Control"] = "no-store"


BLOBS = HOME / "blobs"
UPLOADS = HOME / "uploads"
LARGEST_STEP_BYTES = 50 * 1024 * 1024
DATA_UPLOAD_MAX_MEMORY_SIZE = 4 * 1024 * 1024  # of what is no file
FILE_UPLOAD_PERMISSIONS = 0o600
FILE_UPLOAD_TEMP_DIR = None

CSRF_FAILURE_VIEW = "shop.base.guard.no_token"
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = HTTPS
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_SSL_REDIRECT = False  # the front server's work
SECURE_HSTS_SECONDS = 31536000 if HTTPS else 0
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": ["'self'"],
        "img-src": ["'self'", "data:"],
        "object-src": ["'none'"],
        "base-uri": ["'none'"],
        "form-action": ["'self'"],
        "frame-ancestors": ["'none'"],
    }
}

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"plain": {"format": "%(asctime)s %(levelname)s %(name)s %(message)s"}},
    "filters": {
        "faults": {
            "()": "django.utils.log.CallbackFilter",
            "callback": lambda row: getattr(row, "status_code", 500) not in (503, 507),
        }
    },
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "plain"}},
    # a refusal is no event
    "loggers": {
        "django.request": {"level": "ERROR", "filters": ["faults"]},
        "axes": {"level": "ERROR"},
    },
    "root": {"handlers": ["console"], "level": os.environ.get("FABROTAX_LOG", "WARNING")},
}
