"""Settings, all from the environment: see README, "How to host it".

VARISTRAT_MODE: demo (default; plain http on this machine, one-button sign-in), serve (behind
https), test. VARISTRAT_DATA: folder of the database and the secret key.
"""

import os
import secrets
import shlex
from pathlib import Path

from csp.constants import NONE, SELF

from varistrat.core.executors import cores

BASE_DIR = Path(__file__).resolve().parents[2]
MODE = os.environ.get("VARISTRAT_MODE", "demo")
if MODE not in ("demo", "serve", "lan", "test"):
    raise SystemExit(f"VARISTRAT_MODE is {MODE!r}; use demo, serve, lan or test")
DATA_DIR = Path(os.environ.get("VARISTRAT_DATA", BASE_DIR / "data" / MODE)).resolve()
SERVE = MODE == "serve"
# a real shop over plain http inside its own network: no https to send anyone to, cookies that work without it
LAN = MODE == "lan"
DEMO = MODE == "demo"
DEBUG = False
MOST_SERVERS = 4
"""Serving processes where nothing else is said: each holds a hundred MB and more."""


def _secret_key() -> str:
    """From the environment, else made once and kept beside the database, readable by its owner only."""
    if key := os.environ.get("VARISTRAT_SECRET_KEY"):
        return key
    path = DATA_DIR / "secret-key"
    if not path.exists():
        path.touch(mode=0o600)
        path.write_text(secrets.token_urlsafe(60))
    return path.read_text().strip()


def _writable() -> None:
    """Say so at the start, not at the first save."""
    try:
        DATA_DIR.mkdir(parents=True, exist_ok=True, mode=0o700)
        probe = DATA_DIR / f".probe-{os.getpid()}"
        probe.touch()
        probe.unlink()
    except OSError as e:
        raise SystemExit(f"The folder {DATA_DIR} cannot be written ({e.strerror}); choose another with --data.") from e


def _count(name: str) -> int:
    value = os.environ.get(name, "0").strip()
    if not value.isdecimal() or int(value) > 9:
        raise SystemExit(f"{name} is {value!r}; use a number from 0 to 9")
    return int(value)


def _command(name: str) -> list[str]:
    try:
        return shlex.split(os.environ.get(name, ""))
    except ValueError as e:
        raise SystemExit(f"{name} is {os.environ[name][:60]!r}; a quote in it is not closed") from e


_writable()

if os.environ.get("VARISTRAT_CODES", "") not in ("", "owners"):
    raise SystemExit(f"VARISTRAT_CODES is {os.environ['VARISTRAT_CODES'][:40]!r}; use owners, or leave it out")

SERVERS = _count("VARISTRAT_SERVERS") or (min(MOST_SERVERS, cores()) if SERVE or LAN else 1)
"""Serving processes: one leaves the machine's other cores to the workers, and in a demo one person needs no more."""
SECRET_KEY = _secret_key()
ALLOWED_HOSTS = [h.strip() for h in os.environ.get("VARISTRAT_HOSTS", "*" if LAN else "localhost,127.0.0.1,[::1]").split(",") if h.strip()]
SCANNER = _command("VARISTRAT_SCANNER")
"""A virus scanner's command (api/uploads.py); empty: none."""
CODE_FOR_OWNERS = os.environ.get("VARISTRAT_CODES", "") == "owners"
"""Whether owners have to sign in with a code of their phone; anybody may."""
TRUSTED_PROXIES = _count("VARISTRAT_PROXIES")
"""Proxies between the browsers and this server whose word on addresses counts."""
CSRF_TRUSTED_ORIGINS = [f"https://{h}" for h in ALLOWED_HOSTS] if SERVE else []

INSTALLED_APPS = [
    # before django.contrib.auth: its createsuperuser checks the password also with --noinput
    "varistrat.accounts",
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.staticfiles",
    "csp",
    "ninja",
    "django_tasks",
    "django_tasks_db",
    "varistrat.shop",
    "varistrat.designs",
    "varistrat.kiln",
    "varistrat.rack",
    "varistrat.builds",
    "varistrat.finishing",
    "varistrat.practice",
    "varistrat.jobs",
    "varistrat.demo",
]
MIDDLEWARE = [
    "django.middleware.security.SecurityMiddleware",
    "csp.middleware.CSPMiddleware",
    "varistrat.site.static.Static",
    "varistrat.api.errors.LastResort",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "varistrat.api.shop.ShopMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
]
ROOT_URLCONF = "varistrat.site.urls"
WSGI_APPLICATION = "varistrat.site.wsgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [BASE_DIR / "varistrat" / "site" / "templates"],
        "APP_DIRS": False,
        "OPTIONS": {"context_processors": ["django.template.context_processors.request"]},
    }
]
DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.sqlite3",
        "NAME": DATA_DIR / "varistrat.sqlite3",
        "CONN_MAX_AGE": 600,
        "OPTIONS": {
            # writers queue instead of failing half-way: see docs/architecture.md
            "transaction_mode": "IMMEDIATE",
            "timeout": 20,
            # of a test nothing has to outlive a power cut
            "init_command": f"PRAGMA journal_mode=WAL; PRAGMA synchronous={'OFF' if MODE == 'test' else 'FULL'}; PRAGMA foreign_keys=ON;",
        },
        "TEST": {"NAME": str(DATA_DIR / "test.sqlite3")},
    }
}
PHOTOS_DIR = DATA_DIR / "photos"
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"
CACHES = {
    "default": {"BACKEND": "django.core.cache.backends.locmem.LocMemCache"},
    # pictures of kept designs, by content: safe to delete at any time
    "pictures": {
        "BACKEND": "django.core.cache.backends.filebased.FileBasedCache",
        "LOCATION": DATA_DIR / "pictures",
        "TIMEOUT": 60 * 60 * 24 * 90,
        "OPTIONS": {"MAX_ENTRIES": 3000},
    },
}
TASKS = {"default": {"BACKEND": "django_tasks_db.DatabaseBackend", "QUEUES": ["short", "long"]}}

AUTHENTICATION_BACKENDS = ["varistrat.shop.backend.AtWork"]
PASSWORD_HASHERS = ["varistrat.accounts.hashers.BoundedArgon2"]
LEAST_PASSWORD = 12
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": LEAST_PASSWORD}},
    *(
        {"NAME": f"django.contrib.auth.password_validation.{name}"}
        for name in ("UserAttributeSimilarityValidator", "CommonPasswordValidator", "NumericPasswordValidator")
    ),
]

LANGUAGE_CODE = "en"
TIME_ZONE = "UTC"
USE_TZ = True
STATIC_URL = "/static/"
STATIC_ROOT = BASE_DIR / "web" / "dist"
# of what keeps its name through builds: the mark, the shell; what has its content in its name is kept for good
WHITENOISE_MAX_AGE = 3600
WHITENOISE_IMMUTABLE_FILE_TEST = r"/assets/"

DATA_UPLOAD_MAX_MEMORY_SIZE = 2_000_000
FILE_UPLOAD_MAX_MEMORY_SIZE = 2_000_000

# behind https only: a browser takes such names only from this very host, for all of it, and only when they are secure
SESSION_COOKIE_NAME, CSRF_COOKIE_NAME = (f"__Host-{name}" if SERVE else name for name in ("sessionid", "csrftoken"))
SESSION_COOKIE_SECURE = SERVE
# open to the world: a day's work; inside one's own walls: two weeks
SESSION_COOKIE_AGE = 12 * 3600 if SERVE else 14 * 86400
SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SECURE = SERVE
CSRF_COOKIE_SAMESITE = "Lax"
CSRF_FAILURE_VIEW = "varistrat.api.errors.csrf_failure"
X_FRAME_OPTIONS = "DENY"
SECURE_CONTENT_TYPE_NOSNIFF = True
SECURE_REFERRER_POLICY = "same-origin"
SECURE_SSL_REDIRECT = SERVE
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if SERVE else None
SECURE_HSTS_SECONDS = 31536000 if SERVE else 0
SECURE_HSTS_INCLUDE_SUBDOMAINS = SERVE
SECURE_HSTS_PRELOAD = SERVE
CONTENT_SECURITY_POLICY = {
    "DIRECTIVES": {
        "default-src": [NONE],
        "script-src": [SELF],
        "style-src": [SELF],
        "font-src": [SELF],
        "img-src": [SELF, "blob:", "data:"],
        "connect-src": [SELF, "blob:"],  # blob: the pictures inside a GLB
        "manifest-src": [SELF],
        "base-uri": [NONE],
        "form-action": [SELF],
        "frame-ancestors": [NONE],
    }
}

LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"plain": {"format": "{asctime} {levelname} {name}: {message}", "style": "{"}},
    "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "plain"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
    "loggers": {"django.request": {"level": "ERROR"}, "django.security.csrf": {"level": "ERROR"}, "varistrat.security": {"level": "INFO"}},
}
TEST_RUNNER = "tests.runner.CountingRunner"
