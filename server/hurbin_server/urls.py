"""Two doors: the API, and the page that carries the front end."""

from django.urls import path, re_path

from hurbin_server.api import api
from hurbin_server.base.shell import page

urlpatterns = [path("api/", api.urls), re_path(r"^(?!api/|static/).*$", page)]
