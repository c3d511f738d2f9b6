"""Two doors: the API, and the page that carries the front end."""

from django.urls import path, re_path

from hurbin_server.api import api
from hurbin_server.base.errors import no_such_address
from hurbin_server.base.shell import page

urlpatterns = [
    path("api/v1/", api.urls),
    re_path(r"^api/", no_such_address),
    re_path(r"^(?!api/|static/).*$", page),
]
handler500 = "hurbin_server.base.errors.failed"
