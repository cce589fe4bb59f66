"""A Mattone to be hurt: a cluster that keeps what it is given, a server on it, and a cook who is signed in."""

from __future__ import annotations

import contextlib
import json
import os
import subprocess
import tempfile
import time
import urllib.error
import urllib.request
from collections.abc import Iterator
from pathlib import Path
from typing import Any

from house.cluster import Cluster
from house.install import environment
from house.places import PYTHON, ROOT
from house.ports import free_port
from house.serving import end_process, server_command, wait_for

# In one process: to begin one takes longer than either.
PREPARE = """
import django
django.setup()
from django.core.management import call_command
call_command("migrate", interactive=False, verbosity=0)
call_command("createcachetable", verbosity=0)
"""

# A session in the database, made by the server's own code: its cookie is all that a client needs.
SESSIONS = """
import django, json, sys
django.setup()
from django.contrib.auth import BACKEND_SESSION_KEY, HASH_SESSION_KEY, SESSION_KEY
from django.contrib.auth.models import User
from django.contrib.sessions.backends.db import SessionStore
from demo.loading import load_demo
from kitchen.starter import STARTER
made = []
count = int(sys.argv[1])
cooks = [load_demo()[0]] if count == 0 else []
for i in range(count):
    cook, fresh = User.objects.get_or_create(username=f"soak{i}", defaults={"email": f"soak{i}@skerry-light.example"})
    if fresh:
        for model, rows in STARTER:
            for row in rows:
                model.objects.create(owner=cook, **row)
    cooks.append(cook)
for cook in cooks:
    store = SessionStore()
    store[SESSION_KEY], store[HASH_SESSION_KEY] = str(cook.pk), cook.get_session_auth_hash()
    store[BACKEND_SESSION_KEY] = "allauth.account.auth_backends.AuthenticationBackend"
    store.create()
    made.append(store.session_key)
print(json.dumps(made))
"""


class RefusedError(Exception):
    """An answer that is none: status 0 when nobody answered."""

    def __init__(self, status: int, told: str) -> None:
        super().__init__(f"{status}: {told[:200]}")
        self.status = status


class Api:
    """The API as one signed-in cook's page speaks it."""

    def __init__(self, port: int, session: str) -> None:
        self.base, self.token = f"http://127.0.0.1:{port}", "s" * 32
        self.headers = {"Content-Type": "application/json", "Cookie": f"sessionid={session}; csrftoken={self.token}", "X-CSRFToken": self.token}

    def call(self, method: str, path: str, body: Any = None, *, timeout: float = 20.0) -> Any:
        data = json.dumps(body).encode() if body is not None else None
        request = urllib.request.Request(self.base + path, data, self.headers, method=method)
        try:
            with urllib.request.urlopen(request, timeout=timeout) as response:
                text = response.read()
        except urllib.error.HTTPError as error:
            raise RefusedError(error.code, error.read().decode(errors="replace")) from error
        except (OSError, ValueError) as error:
            raise RefusedError(0, str(error)) from error
        return json.loads(text) if text else None


class Served:
    """A cluster with fsync, and a server on it; both can be killed and brought back."""

    def __init__(self, folder: Path, *, workers: int = 1) -> None:
        self.cluster = Cluster(folder=folder / "postgres")
        self.cluster.start()
        self.port, self.workers = free_port(), workers
        self.server: subprocess.Popen[bytes] | None = None
        self.log = folder / "server.log"
        self.run(PREPARE)

    @property
    def env(self) -> dict[str, str]:
        return environment(
            **self.cluster.client_environment(), MATTONE_SECRET_KEY="soak-only-" + "k" * 50, MATTONE_FINDERS="1", MATTONE_WORKERS=str(self.workers)
        )

    def run(self, script: str, *arguments: str) -> str:
        """What a script of the server's own code prints."""
        command = [str(PYTHON), "-c", script, *arguments]
        return subprocess.run(command, cwd=ROOT / "server", env=self.env, check=True, capture_output=True, text=True).stdout

    def sessions(self, count: int) -> list[str]:
        """Session keys: of the demo cook with count 0, else of so many cooks with an ordinary kitchen each."""
        keys: list[str] = json.loads(self.run(SESSIONS, str(count)).strip().splitlines()[-1])
        return keys

    def serve(self) -> None:
        self.server = self.another(self.port)

    def another(self, port: int) -> subprocess.Popen[bytes]:
        """A server on this database at a port, when it answers."""
        os.environ["MATTONE_WORKERS"] = str(self.workers)
        server = subprocess.Popen(server_command(port), cwd=ROOT / "server", env=self.env, start_new_session=True, stderr=self.log.open("ab"))
        wait_for(f"http://127.0.0.1:{port}/healthz", server)
        return server

    def said(self) -> str:
        """The end of what the server complained of."""
        return self.log.read_text(errors="replace")[-3000:] if self.log.exists() else ""

    def kill_server(self) -> None:
        assert self.server is not None
        with contextlib.suppress(ProcessLookupError):
            os.killpg(self.server.pid, 9)
        self.server.wait()

    def kill_database(self) -> None:
        """The postmaster and all its children, as when the power goes."""
        postmaster = int((self.cluster.data / "postmaster.pid").read_text().split()[0])
        children = subprocess.run(["pgrep", "-P", str(postmaster)], capture_output=True, text=True).stdout.split()
        for pid in (postmaster, *map(int, children)):
            with contextlib.suppress(ProcessLookupError):
                os.kill(pid, 9)

    def end(self) -> None:
        end_process(self.server)
        self.cluster.throwaway = True
        self.cluster.stop()


@contextlib.contextmanager
def served(*, workers: int = 1) -> Iterator[Served]:
    folder = Path(tempfile.mkdtemp(prefix="mattone-soak-"))
    folder.chmod(0o755)
    one = Served(folder, workers=workers)
    try:
        yield one
    finally:
        one.end()
        subprocess.run(["rm", "-rf", str(folder)], check=False)


def until_answers(api: Api, path: str = "/healthz", seconds: float = 60.0) -> float:
    """Seconds until the server answers again."""
    began = time.monotonic()
    while time.monotonic() - began < seconds:
        with contextlib.suppress(RefusedError):
            api.call("GET", path)
            return time.monotonic() - began
        time.sleep(0.1)
    raise TimeoutError(f"{path} does not answer")
