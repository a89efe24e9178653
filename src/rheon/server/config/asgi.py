"""The ASGI application that uvicorn serves."""

import os

from django.conf import settings
from django.core.asgi import get_asgi_application

from rheon.core.engine import use_scratch

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "rheon.server.config.settings")
application = get_asgi_application()
use_scratch(settings.RHEON_SCRATCH)
