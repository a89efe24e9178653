"""Settings of the process that listens on the network: the same database, and no other addresses."""

from .settings import *  # noqa: F403

ROOT_URLCONF = "rheon.server.config.device_urls"
# whoever knows the code may come by any name of this machine
ALLOWED_HOSTS = ["*"]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "rheon.server.api.security.ContentSecurityPolicy",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
DEBUG = False
