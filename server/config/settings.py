"""Settings. Everything that differs between machines comes from the environment `./mattone` sets."""

import os
import warnings
from pathlib import Path

# WhiteNoise streams files synchronously; they are small and on disk.
warnings.filterwarnings("ignore", message="StreamingHttpResponse must consume synchronous iterators")

ROOT = Path(__file__).resolve().parents[2]
LOCAL = Path(os.environ.get("MATTONE_LOCAL", ROOT / ".local"))

DEBUG = os.environ.get("MATTONE_DEBUG") == "1"
SECRET_KEY = os.environ.get("MATTONE_SECRET_KEY") or "not-secret: only for commands that serve nothing"
ALLOWED_HOSTS = os.environ.get("MATTONE_HOSTS", "localhost,127.0.0.1,[::1]").split(",")
CSRF_TRUSTED_ORIGINS = [origin for origin in os.environ.get("MATTONE_ORIGINS", "").split(",") if origin]

INSTALLED_APPS = [
    "django.contrib.auth",
    "django.contrib.contenttypes",
    "django.contrib.sessions",
    "django.contrib.messages",
    "django.contrib.staticfiles",
    "django_vite",
    "allauth",
    "allauth.account",
    "allauth.headless",
    "ninja",
    "accounts",
    "kitchen",
    "plans",
    "match",
    "styling",
    "dough",
    "timeline",
    "live",
    "demo",
]

MIDDLEWARE = [
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
    "config.middleware.ContentSecurityPolicy",
]

ROOT_URLCONF = "config.urls"
ASGI_APPLICATION = "config.asgi.application"
TEMPLATES = [
    {
        "BACKEND": "django.template.backends.django.DjangoTemplates",
        "DIRS": [ROOT / "server" / "templates"],
        "OPTIONS": {
            "context_processors": [
                "django.template.context_processors.request",
                "django.contrib.auth.context_processors.auth",
                "django.contrib.messages.context_processors.messages",
            ]
        },
    }
]

DATABASES = {
    "default": {
        "ENGINE": "django.db.backends.postgresql",
        "HOST": "127.0.0.1",
        "PORT": os.environ.get("MATTONE_DB_PORT", "5432"),
        "NAME": os.environ.get("MATTONE_DB_NAME", "mattone"),
        "USER": os.environ.get("MATTONE_DB_USER", "mattone"),
        "PASSWORD": os.environ.get("MATTONE_DB_PASSWORD", ""),
        "CONN_HEALTH_CHECKS": True,
    }
}
DEFAULT_AUTO_FIELD = "django.db.models.BigAutoField"

# Sign-up, sign-in and password are allauth's, spoken to by the page over JSON.
AUTHENTICATION_BACKENDS = ["allauth.account.auth_backends.AuthenticationBackend"]
AUTH_PASSWORD_VALIDATORS = [
    {"NAME": "django.contrib.auth.password_validation.UserAttributeSimilarityValidator"},
    {"NAME": "django.contrib.auth.password_validation.MinimumLengthValidator", "OPTIONS": {"min_length": 10}},
    {"NAME": "django.contrib.auth.password_validation.CommonPasswordValidator"},
    {"NAME": "django.contrib.auth.password_validation.NumericPasswordValidator"},
]
HEADLESS_ONLY = True
HEADLESS_CLIENTS = ("browser",)
HEADLESS_FRONTEND_URLS = {"account_signup": "/", "account_reset_password": "/", "account_reset_password_from_key": "/"}
ACCOUNT_LOGIN_METHODS = {"email"}
ACCOUNT_SIGNUP_FIELDS = ["email*", "password1*"]
ACCOUNT_EMAIL_VERIFICATION = "none"
ACCOUNT_LOGOUT_ON_PASSWORD_CHANGE = False
EMAIL_BACKEND = "django.core.mail.backends.console.EmailBackend"

SESSION_COOKIE_HTTPONLY = True
SESSION_COOKIE_SAMESITE = "Lax"
CSRF_COOKIE_SAMESITE = "Lax"
# A home server is plain HTTP on loopback; behind TLS set MATTONE_TLS=1.
SESSION_COOKIE_SECURE = CSRF_COOKIE_SECURE = os.environ.get("MATTONE_TLS") == "1"
SECURE_REFERRER_POLICY = "same-origin"
X_FRAME_OPTIONS = "DENY"
DATA_UPLOAD_MAX_MEMORY_SIZE = 256 * 1024

STATIC_URL = "/static/"
STATIC_ROOT = LOCAL / "static"
STATIC_ROOT.mkdir(parents=True, exist_ok=True)
STATICFILES_DIRS = [ROOT / "web" / "dist"] if (ROOT / "web" / "dist").exists() else []
STORAGES = {
    "default": {"BACKEND": "django.core.files.storage.FileSystemStorage"},
    "staticfiles": {"BACKEND": "whitenoise.storage.CompressedStaticFilesStorage"},
}
WHITENOISE_USE_FINDERS = os.environ.get("MATTONE_FINDERS") == "1"
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
    "handlers": {"console": {"class": "logging.StreamHandler"}},
    "loggers": {"django.request": {"level": "ERROR"}},
    "root": {"handlers": ["console"], "level": "WARNING"},
}
