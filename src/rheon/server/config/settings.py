"""Django's settings, made of the installation's (``rheon.settings``); nothing secret is in the repository."""

from __future__ import annotations

import os
import secrets
import warnings
from pathlib import Path

from rheon.server.care.database import PICTURES
from rheon.settings import load_settings

# the page's own small files are read as they are; each start would say so
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous")

HERE = load_settings().settings
STATE = HERE.state
STATE.mkdir(parents=True, exist_ok=True)
# database, key and cache are the owner's alone; SQLite gives its other files the rights of the first
STATE.chmod(0o700)
for kept in (STATE / "rheon.sqlite3", *STATE.glob("*.sqlite3*")):
    kept.touch(mode=0o600)
    kept.chmod(0o600)


def _secret() -> str:
    path = STATE / "secret-key"
    if not path.exists():
        path.touch(mode=0o600)
        path.write_text(secrets.token_urlsafe(50))
    path.chmod(0o600)
    return path.read_text()


RHEON_PORT = HERE.port
# where a device is asked what it plays, and only while somebody has turned that on
RHEON_PAIRING_PORT = HERE.pairing_port
RHEON_PAIRING_HOST = HERE.pairing_host
RHEON_MEDIA_SERVER_PORT = HERE.media_server_port
RHEON_MEDIA_FOLDERS = list(HERE.media)
RHEON_OUTPUT_FOLDER = HERE.output
RHEON_CACHE = STATE / "cache"
# what people brought to know their files by
RHEON_PICTURES = STATE / PICTURES
RHEON_SCRATCH = STATE / "scratch"
RHEON_ENGINE_MEMORY_BYTES = HERE.engine_memory_mb << 20
RHEON_CACHE_BYTES = HERE.cache_mb * 1_000_000
# device paths such as /dev/sr0, or stand-ins as module:place
RHEON_DRIVES = list(HERE.drives)
# where volumes to copy to are found: "mounted", or stand-ins as module:place
RHEON_VOLUMES = list(HERE.volumes)
RHEON_ENDS = list(HERE.ends)
RHEON_TELL = HERE.tell
# where encoders in hardware are looked for, if at all
RHEON_HARDWARE = HERE.hardware_place
RHEON_LOOK_UP = HERE.look_up
RHEON_PREFIX = HERE.prefix
RHEON_PROXIES = HERE.proxies

SECRET_KEY = _secret()
DEBUG = os.environ.get("RHEON_DEBUG") == "1"
# for a network, ``api.hosts`` looks at the name: addresses are let in too, and those are no fixed list
ALLOWED_HOSTS = ["127.0.0.1", "localhost", "[::1]"] if HERE.is_local else ["*"]

INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "rest_framework",
    "drf_spectacular",
    "django_tasks",
    "django_tasks_db",
    "rheon.server.home",
    "rheon.server.shelf",
    "rheon.server.household",
    "rheon.server.bench",
    "rheon.server.worklist",
    "rheon.server.outbox",
    "rheon.server.upkeep",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "rheon.server.api.security.ContentSecurityPolicy",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "rheon.server.home.gate.SignedIn",
    "django.middleware.http.ConditionalGetMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "rheon.server.api.security.SensibleNumbers",
]
ROOT_URLCONF = "rheon.server.config.urls"
ASGI_APPLICATION = "rheon.server.config.asgi.application"
TEMPLATES: list[dict[str, object]] = []

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": STATE / "rheon.sqlite3",
        "OPTIONS": {
            "timeout": 20,
            "transaction_mode": "IMMEDIATE",
            "init_command": "PRAGMA journal_mode=WAL; PRAGMA synchronous=NORMAL;",
        },
        "TEST": {"NAME": STATE / "test.sqlite3"},
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": ["quick", "convert", "copy"]}}

REST_FRAMEWORK = {
    "DEFAULT_AUTHENTICATION_CLASSES": ["rheon.server.api.security.SamePage"],
    "DEFAULT_PERMISSION_CLASSES": [],
    "DEFAULT_RENDERER_CLASSES": ["rheon.server.api.rendering.DocumentRenderer"],
    "DEFAULT_PARSER_CLASSES": ["rheon.server.api.parsing.BoundedJson"],
    "DEFAULT_SCHEMA_CLASS": "drf_spectacular.openapi.AutoSchema",
    "EXCEPTION_HANDLER": "rheon.server.api.errors.handle",
    "UNAUTHENTICATED_USER": None,
}
SPECTACULAR_SETTINGS = {
    "TITLE": "Rheon",
    "VERSION": "1",
    "OAS_VERSION": "3.1.0",
    "SERVE_INCLUDE_SCHEMA": False,
    "AUTHENTICATION_WHITELIST": [],
    "POSTPROCESSING_HOOKS": [
        "rheon.server.api.schema.add_components",
        "rheon.server.api.schema.bound_path_numbers",
    ],
}

STATIC_URL = "static/"
# inside an installed wheel, else where the checkout builds it
PACKAGED = Path(__file__).resolve().parents[1] / "page"
WEB_BUILD = PACKAGED if PACKAGED.is_dir() else Path(__file__).resolve().parents[4] / "web" / "dist"
WHITENOISE_ROOT = WEB_BUILD if WEB_BUILD.is_dir() else None
WHITENOISE_INDEX_FILE = False

COOKIES_UNDER = f"{RHEON_PREFIX}/"
CSRF_COOKIE_SAMESITE = SESSION_COOKIE_SAMESITE = "Strict"
CSRF_COOKIE_PATH = SESSION_COOKIE_PATH = COOKIES_UNDER
CSRF_COOKIE_SECURE = SESSION_COOKIE_SECURE = HERE.https
# two installations on one machine share its cookies, whatever their ports
CSRF_COOKIE_NAME, SESSION_COOKIE_NAME = "csrftoken", f"rheon-{RHEON_PORT}"
SESSION_COOKIE_AGE = 90 * 86400
SECURE_HSTS_SECONDS = 365 * 86400 if HERE.https else 0
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
USE_TZ = True
TIME_ZONE = "UTC"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
    "loggers": {"rheon": {"level": "INFO"}},
}
