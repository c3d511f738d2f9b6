"""The web server's way in."""

from django.core.wsgi import get_wsgi_application

application = get_wsgi_application()
