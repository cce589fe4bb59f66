"""A PostgreSQL cluster of our own, on loopback.

One is kept for the demo's data; tests make a throw-away one without fsync. PostgreSQL refuses to
run as root, so as root its programs run as the user `postgres` that Debian's package makes.

What looks like a cluster is never removed: a half-made one is moved aside, one whose port and
password are lost gets new ones. The facts (port, password) live inside the data folder.
"""

from __future__ import annotations

import hashlib
import os
import secrets
import shutil
import stat
import subprocess
import tempfile
import time
from pathlib import Path

from house import facts as facts_of
from house.facts import Facts
from house.machine import postgres_bin
from house.places import LOCAL, ROOT
from house.ports import free_port, port_taken
from house.say import step, stop

FAST = ("-c", "fsync=off", "-c", "synchronous_commit=off", "-c", "full_page_writes=off")
DATABASE = "mattone"
# After the postmaster was killed its children still hold shared memory for a moment.
START_TRIES, TRY_AGAIN_S = 10, 1.0


def _passable(path: Path) -> bool:
    """Whether another user may enter every parent of this path."""
    return all(parent.stat().st_mode & stat.S_IXOTH for parent in path.parents if parent.exists())


class Cluster:
    """A cluster in a folder of its own; `start` makes it when it is new."""

    def __init__(self, *, throwaway: bool = False, folder: Path | None = None) -> None:
        self.throwaway = throwaway
        self.as_root = os.geteuid() == 0
        if folder is not None:
            self.folder = folder
        elif throwaway:
            self.folder = Path(tempfile.mkdtemp(prefix="mattone-test-db-"))
        elif not self.as_root or _passable(LOCAL / "postgres"):
            self.folder = LOCAL / "postgres"
        else:
            # Under a closed home the user postgres cannot reach the checkout.
            name = hashlib.sha256(str(ROOT).encode()).hexdigest()[:12]
            self.folder = Path("/var/lib/mattone") / name
        self.data = self.folder / "data"
        # Where the facts were kept before they moved into the data folder.
        self.older_facts = self.folder.parent / f"{self.folder.name}.json"

    def _run(self, *command: str | Path, check: bool = True, said: str | None = None) -> subprocess.CompletedProcess[str]:
        words = [str(c) for c in command]
        if self.as_root:
            words = ["runuser", "-u", "postgres", "--", *words]
        # C, so that what is read from the programs' output is not translated.
        done = subprocess.run(words, cwd="/", input=said, capture_output=True, text=True, env=os.environ | {"LC_ALL": "C"})
        if check and done.returncode:
            stop(f"{Path(command[0]).name} failed: {(done.stderr or done.stdout).strip()[-600:]}", f"The cluster is in {self.folder}.")
        return done

    @property
    def bin(self) -> Path:
        found = postgres_bin()
        if found is None:
            stop("PostgreSQL is not installed.", "Run ./mattone demo, which installs it or says how.")
        return found

    def there(self) -> bool:
        """Whether the data folder holds a whole cluster."""
        return (self.data / "PG_VERSION").exists() and (self.data / "global" / "pg_control").exists()

    def facts(self) -> Facts:
        """Port and password; stops with words when they are lost."""
        found = self.known_facts()
        if found is None:
            stop("the database's port and password are not known.", "Run ./mattone db start: it sets new ones; the data stays.")
        return found

    def known_facts(self) -> Facts | None:
        """Port and password, or None where they are missing, empty or half written."""
        return facts_of.read(facts_of.place(self.data)) or facts_of.read(self.older_facts)

    def running(self) -> bool:
        """Whether this very cluster answers; a process id alone says nothing."""
        found = self.known_facts() if self.there() else None
        if found is None or not port_taken(found.port):
            return False
        answer = self.ask("show data_directory", facts=found)
        return answer.returncode == 0 and Path(answer.stdout.strip()).resolve() == self.data.resolve()

    def ask(self, sql: str, *, database: str = "postgres", facts: Facts | None = None) -> subprocess.CompletedProcess[str]:
        """What the cluster answers to one statement, by psql."""
        told = facts or self.facts()
        environment = os.environ | {"PGPASSWORD": told.password, "LC_ALL": "C", "PGCONNECT_TIMEOUT": "5"}
        return subprocess.run([str(self.bin / "psql"), *self.reach(told, database), "-tAc", sql], env=environment, capture_output=True, text=True)

    def reach(self, told: Facts, database: str = DATABASE) -> list[str]:
        """The options by which PostgreSQL's programs reach it."""
        return ["-h", "127.0.0.1", "-p", str(told.port), "-U", "mattone", "-d", database]

    def start(self) -> None:
        """Start it, making it first when needed; one that answers is left alone."""
        if not self.there():
            self._make()
        self._refuse_other_version()
        if self.running():
            return
        told = self.known_facts()
        if told is None:
            told = self._new_facts()
        self._clear_stale_pid()
        if port_taken(told.port):
            told = Facts(free_port(), told.password)
        self._remember(told)
        self._start_on(told.port)
        self._ensure_database()

    def _start_on(self, port: int) -> None:
        options = f"-h 127.0.0.1 -p {port} -c unix_socket_directories=''"
        if self.throwaway:
            options += " " + " ".join(FAST)
        for tries_left in reversed(range(START_TRIES)):
            done = self._run(self.bin / "pg_ctl", "-D", self.data, "-l", self.folder / "log", "-o", options, "-w", "-t", "60", "start", check=tries_left == 0)
            if done.returncode == 0:
                return
            time.sleep(TRY_AGAIN_S)

    def _refuse_other_version(self) -> None:
        made_by = (self.data / "PG_VERSION").read_text().strip()
        here = "".join(c for c in self.bin.parent.name if c.isdigit())
        if here and made_by != here:
            stop(
                f"the data in {self.folder} were made by PostgreSQL {made_by}, and this machine runs {here}.",
                f"Install postgresql-{made_by}, run `./mattone db dump FILE`, move {self.folder} away, then `./mattone db restore FILE`.",
            )

    def _make(self) -> None:
        """A new cluster: made beside, with its facts in it, and renamed when it is whole."""
        self._move_aside(self.data)
        making = self.folder / "data.making"
        self._move_aside(making)
        step(f"making a PostgreSQL cluster in {self.folder}")
        self.folder.mkdir(parents=True, exist_ok=True)
        if self.as_root:
            shutil.chown(self.folder, "postgres", "postgres")
        self.folder.chmod(0o700)
        told = Facts(free_port(), secrets.token_urlsafe(24))
        secret = self.folder / "first-password"
        secret.touch(mode=0o600)
        secret.write_text(told.password)
        if self.as_root:
            shutil.chown(secret, "postgres", "postgres")
        options = ["-U", "mattone", "-E", "UTF8", "--locale=C.UTF-8", "--data-checksums", "--auth=scram-sha-256", f"--pwfile={secret}"]
        self._run(self.bin / "initdb", "-D", making, *options)
        secret.unlink()
        facts_of.write(facts_of.place(making), told)
        making.rename(self.data)

    def _move_aside(self, folder: Path) -> None:
        """What stands in the way is kept under another name, and said."""
        if not folder.exists() or not any(folder.iterdir()):
            return
        aside = folder.with_name(f"{folder.name}.aside-{time.strftime('%Y%m%d-%H%M%S')}-{secrets.token_hex(2)}")
        folder.rename(aside)
        step(f"{folder} is not a whole cluster; it is kept as {aside.name}, and a new one is made")

    def _new_facts(self) -> Facts:
        """A new password for a cluster whose facts are lost, set without it; not one row is touched."""
        step("the database's port and password are lost; setting new ones, the data stays")
        # It may be running still, on a port nobody knows.
        self._run(self.bin / "pg_ctl", "-D", self.data, "-m", "fast", "-w", "stop", check=False)
        self._clear_stale_pid()
        told = Facts(free_port(), secrets.token_urlsafe(24))
        self._run(self.bin / "postgres", "--single", "-D", self.data, "postgres", said=f"alter role mattone password '{told.password}'\n")
        return told

    def _clear_stale_pid(self) -> None:
        """After a crash the noted process id may be somebody else's by now, and would stop the start."""
        noted = self.data / "postmaster.pid"
        if not noted.exists():
            return
        first = noted.read_text().split("\n", 1)[0].strip()
        try:
            command = Path(f"/proc/{int(first)}/cmdline").read_bytes()
        except (OSError, ValueError):
            command = b""
        if str(self.data).encode() not in command:
            noted.unlink(missing_ok=True)

    def _remember(self, told: Facts) -> None:
        facts_of.write(facts_of.place(self.data), told)

    def _ensure_database(self) -> None:
        if self.ask(f"select 1 from pg_database where datname='{DATABASE}'").stdout.strip() != "1":
            made = self.ask(f"create database {DATABASE}")
            if made.returncode:
                stop(f"the database could not be made: {made.stderr.strip()}")

    def client_environment(self, database: str = DATABASE) -> dict[str, str]:
        """What Django needs to reach it."""
        told = self.facts()
        return {"MATTONE_DB_PORT": str(told.port), "MATTONE_DB_NAME": database, "MATTONE_DB_USER": "mattone", "MATTONE_DB_PASSWORD": told.password}

    def stop(self) -> None:
        """Stop it; a throw-away one is removed, and only that."""
        if (self.data / "postmaster.pid").exists():
            self._run(self.bin / "pg_ctl", "-D", self.data, "-m", "fast", "-w", "stop", check=False)
        if self.throwaway:
            for _ in range(20):
                shutil.rmtree(self.folder, ignore_errors=True)
                if not self.folder.exists():
                    break
                time.sleep(0.1)
