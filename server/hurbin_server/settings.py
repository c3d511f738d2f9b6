"""Settings: everything machine-specific comes from the entry script through the environment."""

from __future__ import annotations

import os
from datetime import timedelta
from pathlib import Path

from csp.constants import NONE, SELF

ROOT = Path(__file__).resolve().parent.parent.parent
SECRET_KEY = os.environ["HURBIN_SECRET_KEY"]
DEBUG = False
DEMO = os.environ.get("HURBIN_DEMO") == "1"
ALLOWED_HOSTS = ["127.0.0.1", "localhost", *filter(None, os.environ.get("HURBIN_HOSTS", "").split(","))]

INSTALLED_APPS = [
    "django.contrib.contenttypes",
    "django.contrib.auth",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "axes",
    "csp",
    "django_tasks",
    "django_tasks_db",
    "hurbin_server.base",
    "hurbin_server.plant",
    "hurbin_server.instruments",
    "hurbin_server.logbook",
    "hurbin_server.safety",
    "hurbin_server.stores",
    "hurbin_server.electrical",
    "hurbin_server.alignment",
    "hurbin_server.hydraulics",
    "hurbin_server.jobs",
    "hurbin_server.simulator",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "hurbin_server.base.middleware.too_large",
    "django.middleware.gzip.GZipMiddleware",
    "hurbin_server.base.middleware.database_gone",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "hurbin_server.base.sessions.signed_in",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "axes.middleware.AxesMiddleware",
]
ROOT_URLCONF = "hurbin_server.urls"
WSGI_APPLICATION = "hurbin_server.wsgi.application"

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.mysql",
        "NAME": os.environ.get("HURBIN_DB_NAME", "hurbin"),
        "USER": "hurbin",
        "PASSWORD": os.environ.get("HURBIN_DB_PASSWORD", ""),
        "HOST": os.environ.get("HURBIN_DB_SOCKET", ""),
        "CONN_MAX_AGE": 60,
        "CONN_HEALTH_CHECKS": True,
        "OPTIONS": {
            "charset": "utf8mb4",
            "isolation_level": "read committed",
            "connect_timeout": 5,
            # A lock is waited for ten seconds at most; then the act is broken off and done again.
            "init_command": (
                "SET innodb_lock_wait_timeout=10,"
                " sql_mode='STRICT_ALL_TABLES,NO_ENGINE_SUBSTITUTION,ERROR_FOR_DIVISION_BY_ZERO'"
            ),
        },
        "TEST": {"CHARSET": "utf8mb4", "COLLATION": "utf8mb4_unicode_520_ci"},
    }
}
# Progress of a long task is told beside its transaction, so that others see it before the task is done.
PROGRESS_DATABASE = "progress"
DATABASES[PROGRESS_DATABASE] = {**DATABASES["default"], "TEST": {"MIRROR": "default"}}
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": ["default"]}}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

AUTH_USER_MODEL = "base.User"
AUTHENTICATION_BACKENDS = ["axes.backends.AxesStandaloneBackend", "django.contrib.auth.backends.ModelBackend"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
]
# Behind our own front end, which says from where a request came; else nobody is believed about that.
BEHIND = os.environ.get("HURBIN_BEHIND") == "1"
# How many times the usual limits: a benchmark asks more often than people do.
LIMIT_TIMES = int(os.environ.get("HURBIN_LIMIT_TIMES") or 1)
AXES_CLIENT_IP_CALLABLE = "hurbin_server.base.address.address_of"
AXES_FAILURE_LIMIT = 8
AXES_COOLOFF_TIME = timedelta(minutes=10)
AXES_LOCKOUT_PARAMETERS = [["username", "ip_address"]]
AXES_RESET_ON_SUCCESS = True
AXES_DISABLE_ACCESS_LOG = True
AXES_VERBOSE = False
AXES_LOCKOUT_CALLABLE = "hurbin_server.base.errors.locked_out"

SESSION_ENGINE = "hurbin_server.base.sessions"
SESSION_COOKIE_AGE = 14 * 3600
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Strict"
CSRF_COOKIE_SAMESITE = "Strict"
# Behind a TLS front end set HURBIN_TLS=1; on plain loopback a secure cookie would never come back.
TLS = os.environ.get("HURBIN_TLS") == "1"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = TLS
# The keeper asks on the loopback, without TLS, whether the application answers.
SECURE_REDIRECT_EXEMPT = [r"^api/v1/health$"]
if BEHIND or TLS:
    # It listens on the loopback alone: who says this is the front end on this machine.
    SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https")
SECURE_HSTS_SECONDS = 31_536_000 if TLS else 0
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
SECURE_CROSS_ORIGIN_OPENER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
DATA_UPLOAD_MAX_MEMORY_SIZE = 8 * 1024 * 1024
# A file of readings may be larger than a picture; it goes to the disk while it arrives, and from there into
# the database.
READINGS_FILE_MOST = 96 * 1024 * 1024
# Where the database writes, and how many megabytes of that disk are left for it alone.
DATA_DIR = os.environ.get("HURBIN_DATA_DIR", "")
DISK_FLOOR_MB = float(os.environ.get("HURBIN_DISK_FLOOR_MB") or 200)
# What the entry script notes of the newest backup.
BACKUPS = os.environ.get("HURBIN_BACKUPS", "")
# Beside the database's socket, in a folder of this application alone.
DECODING_LOCK = Path(os.environ.get("HURBIN_DB_SOCKET") or "/dev/shm/hurbin").parent / "decoding.lock"
FILE_UPLOAD_MAX_MEMORY_SIZE = 2 * 1024 * 1024
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "img-src": [SELF, "data:"],
        "font-src": [SELF],
        "connect-src": [SELF],
        "manifest-src": [SELF],
        "form-action": [SELF],
        "base-uri": [NONE],
        "frame-ancestors": [NONE],
    }
}

USE_TZ = True
TIME_ZONE = "UTC"
USE_I18N = False
LANGUAGE_CODE = "en-gb"

WEB_DIST = Path(os.environ.get("HURBIN_WEB_DIST") or ROOT / "web" / "dist")
STATIC_URL = "/static/"
STATIC_ROOT = WEB_DIST
WHITENOISE_INDEX_FILE = False
WHITENOISE_MAX_AGE = 3600


def _immutable(path: str, url: str) -> bool:
    return "/assets/" in url


WHITENOISE_IMMUTABLE_FILE_TEST = _immutable

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
