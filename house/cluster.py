"""A PostgreSQL cluster of our own, on loopback.

One is kept for the demo's data; tests make a throw-away one without fsync. PostgreSQL refuses to
run as root, so as root its programs run as the user `postgres` that Debian's package makes.
"""

from __future__ import annotations

import hashlib
import json
import os
import secrets
import shutil
import socket
import stat
import subprocess
import tempfile
import time
from pathlib import Path

from house.machine import postgres_bin
from house.places import LOCAL, ROOT
from house.say import step, stop

FAST = ("-c", "fsync=off", "-c", "synchronous_commit=off", "-c", "full_page_writes=off")


def free_port() -> int:
    with socket.socket() as s:
        s.bind(("127.0.0.1", 0))
        return int(s.getsockname()[1])


def port_taken(port: int) -> bool:
    with socket.socket() as s:
        s.settimeout(0.5)
        return s.connect_ex(("127.0.0.1", port)) == 0


def _passable(path: Path) -> bool:
    """Whether another user may enter every parent of this path."""
    return all(parent.stat().st_mode & stat.S_IXOTH for parent in path.parents if parent.exists())


class Cluster:
    """A cluster in a folder of its own; `start` makes it when it is new."""

    def __init__(self, *, throwaway: bool = False) -> None:
        self.throwaway = throwaway
        self.as_root = os.geteuid() == 0
        if throwaway:
            self.folder = Path(tempfile.mkdtemp(prefix="mattone-test-db-"))
        elif not self.as_root or _passable(LOCAL / "postgres"):
            self.folder = LOCAL / "postgres"
        else:
            # Under a closed home the user postgres cannot reach the checkout.
            name = hashlib.sha256(str(ROOT).encode()).hexdigest()[:12]
            self.folder = Path("/var/lib/mattone") / name
        self.facts_file = self.folder.parent / f"{self.folder.name}.json"
        self.started_here = False

    def _run(self, *command: str | Path, check: bool = True) -> subprocess.CompletedProcess[str]:
        words = [str(c) for c in command]
        if self.as_root:
            words = ["runuser", "-u", "postgres", "--", *words]
        # C, so that what is read from the programs' output is not translated.
        done = subprocess.run(words, cwd="/", capture_output=True, text=True, env=os.environ | {"LC_ALL": "C"})
        if check and done.returncode:
            stop(f"{Path(command[0]).name} failed: {(done.stderr or done.stdout).strip()[-600:]}", f"The cluster is in {self.folder}.")
        return done

    @property
    def bin(self) -> Path:
        found = postgres_bin()
        if found is None:
            stop("PostgreSQL is not installed.", "Run ./mattone demo, which installs it or says how.")
        return found

    def facts(self) -> dict[str, str]:
        """Port and password."""
        return dict(json.loads(self.facts_file.read_text()))

    def running(self) -> bool:
        if not (self.folder / "data" / "PG_VERSION").exists() and not self.facts_file.exists():
            return False
        return self._run(self.bin / "pg_ctl", "-D", self.folder / "data", "status", check=False).returncode == 0

    def start(self) -> None:
        """Start it, making it first when needed; a running one is left alone."""
        if not self.facts_file.exists():
            self._make()
        if self.running():
            return
        facts = self.facts()
        port = int(facts["port"])
        if port_taken(port):
            port = free_port()
            self._remember(port, facts["password"])
        options = f"-h 127.0.0.1 -p {port} -c unix_socket_directories=''"
        if self.throwaway:
            options += " " + " ".join(FAST)
        self._run(self.bin / "pg_ctl", "-D", self.folder / "data", "-l", self.folder / "log", "-o", options, "-w", "-t", "60", "start")
        self.started_here = True
        self._ensure_database()

    def _make(self) -> None:
        step(f"making a PostgreSQL cluster in {self.folder}")
        if self.folder.exists() and not self.throwaway:
            shutil.rmtree(self.folder)
        self.folder.mkdir(parents=True, exist_ok=True)
        if self.as_root:
            shutil.chown(self.folder, "postgres", "postgres")
        self.folder.chmod(0o700)
        password = secrets.token_urlsafe(24)
        secret = self.folder / "first-password"
        secret.write_text(password)
        secret.chmod(0o600)
        if self.as_root:
            shutil.chown(secret, "postgres", "postgres")
        self._run(
            self.bin / "initdb", "-D", self.folder / "data", "-U", "mattone", "-E", "UTF8", "--locale=C.UTF-8",
            "--auth=scram-sha-256", f"--pwfile={secret}",
        )  # fmt: skip
        secret.unlink()
        self._remember(free_port(), password)

    def _remember(self, port: int, password: str) -> None:
        self.facts_file.parent.mkdir(parents=True, exist_ok=True)
        self.facts_file.touch(mode=0o600)
        self.facts_file.write_text(json.dumps({"port": str(port), "password": password}))

    def _ensure_database(self) -> None:
        facts = self.facts()
        environment = os.environ | {"PGPASSWORD": facts["password"], "LC_ALL": "C"}
        base = [str(self.bin / "psql"), "-h", "127.0.0.1", "-p", facts["port"], "-U", "mattone", "-d", "postgres", "-tA", "-c"]
        there = subprocess.run([*base, "select 1 from pg_database where datname='mattone'"], env=environment, capture_output=True, text=True)
        if there.stdout.strip() != "1":
            made = subprocess.run([*base, "create database mattone"], env=environment, capture_output=True, text=True)
            if made.returncode:
                stop(f"the database could not be made: {made.stderr.strip()}")

    def client_environment(self) -> dict[str, str]:
        """What Django needs to reach it."""
        facts = self.facts()
        return {
            "MATTONE_DB_PORT": facts["port"],
            "MATTONE_DB_NAME": "mattone",
            "MATTONE_DB_USER": "mattone",
            "MATTONE_DB_PASSWORD": facts["password"],
        }

    def stop(self) -> None:
        if self.running():
            self._run(self.bin / "pg_ctl", "-D", self.folder / "data", "-m", "fast", "-w", "stop")
        if self.throwaway:
            for _ in range(20):
                shutil.rmtree(self.folder, ignore_errors=True)
                if not self.folder.exists():
                    break
                time.sleep(0.1)
            self.facts_file.unlink(missing_ok=True)
