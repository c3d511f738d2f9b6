"""The web server's way in."""

from django.core.wsgi import get_wsgi_application
from django.urls import get_resolver

from hurbin_server.base.receiving import Received

_django = get_wsgi_application()
# Read before the workers are forked: else the first who asks each of them waits for seconds.
_ = get_resolver().url_patterns
application = Received(_django)
