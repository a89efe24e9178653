"""The ASGI application that uvicorn serves."""

import os
from typing import cast

from django.conf import settings
from django.core.asgi import get_asgi_application

os.environ.setdefault("DJANGO_SETTINGS_MODULE", "rheon.server.config.settings")
served = get_asgi_application()

from uvicorn.middleware.proxy_headers import ProxyHeadersMiddleware  # noqa: E402 - the settings have to be there first

from rheon.core.engine import limit_memory  # noqa: E402
from rheon.core.system import use_scratch  # noqa: E402
from rheon.server.api.hosts import KnownHosts, UnderPrefix  # noqa: E402
from rheon.server.api.limits import Application, BoundedCalls  # noqa: E402
from rheon.server.care.database import database_of, hold_open  # noqa: E402
from rheon.server.shelf.folders import fence_in  # noqa: E402

use_scratch(settings.RHEON_SCRATCH)
limit_memory(settings.RHEON_ENGINE_MEMORY_BYTES)
held = hold_open(database_of(settings.STATE))
fence_in()
guarded = KnownHosts(BoundedCalls(served), names=settings.HERE.hosts, on_network=not settings.HERE.is_local)
application: Application = UnderPrefix(guarded, prefix=settings.HERE.prefix)
if settings.HERE.proxies:
    # only they are believed about who calls and whether TLS is spoken
    application = cast("Application", ProxyHeadersMiddleware(application, trusted_hosts=list(settings.HERE.proxies)))
