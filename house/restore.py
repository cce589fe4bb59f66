"""Dump the kept database and the photos to a file, and bring a dump back without touching what is there."""

from __future__ import annotations

import os
import secrets
import subprocess
import tarfile
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from house.cluster import DATABASE, Cluster
from house.places import LOCAL, ROOT
from house.say import step, stop

# Whoever closed a connection is gone from the list a moment later.
LEAVING_TRIES, LEAVING_S = 15, 0.1
# Where the photos are, and what is what in a dump: a database as pg_dump writes it, and a folder.
MEDIA = LOCAL / "media"
IN_DUMP_DATABASE, IN_DUMP_MEDIA = "database", "media"


def dump(cluster: Cluster, file: Path, media: Path = MEDIA) -> None:
    """Everything in one file that only its owner reads; written beside, then renamed. The database first: no row in it lacks its photo."""
    if file.exists():
        stop(f"there is a file {file} already.", "Give another name, or move it away first.")
    if not file.parent.is_dir():
        stop(f"there is no folder {file.parent}.", "Make it first, or give another place.")
    told = cluster.facts()
    beside = file.with_name(f".{file.name}.{secrets.token_hex(4)}")
    os.close(os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600))
    try:
        with tempfile.TemporaryDirectory(dir=file.parent) as folder:
            database = Path(folder) / IN_DUMP_DATABASE
            _run(cluster, "pg_dump", [*cluster.reach(told), "-Fc", "-f", str(database)], told.password)
            with tarfile.open(beside, "w:gz", compresslevel=1) as whole:
                whole.add(database, IN_DUMP_DATABASE)
                if media.is_dir():
                    whole.add(media, IN_DUMP_MEDIA)
        beside.rename(file)
    finally:
        beside.unlink(missing_ok=True)
    step(f"dumped to {file}; only you can read it")


def restore(cluster: Cluster, file: Path, migrate: Callable[[dict[str, str]], None], media: Path = MEDIA) -> None:
    """The dump into a database and a folder of its own, brought up to this version, then put in the place of the others.

    What was there is kept under another name. Anything that goes wrong leaves it in its place. A dump of before there were photos is a database alone.
    """
    if not file.is_file():
        stop(f"there is no file {file}.", "Give the file that `./mattone db dump FILE` wrote.")
    told = cluster.facts()
    stamp = f"{time.strftime('%Y%m%d_%H%M%S')}_{secrets.token_hex(2)}"
    fresh, before = f"{DATABASE}_restored_{stamp}", f"{DATABASE}_before_{stamp}"
    media.parent.mkdir(parents=True, exist_ok=True)
    try:
        with tempfile.TemporaryDirectory(prefix="restoring-", dir=media.parent) as folder:
            database = _unpacked(file, Path(folder))
            _ask(cluster, f"create database {fresh}")
            _run(cluster, "pg_restore", [*cluster.reach(told, fresh), "--single-transaction", "--no-owner", str(database)], told.password)
            _refuse_newer(cluster, fresh)
            migrate(cluster.client_environment(fresh))
            if connected := _connected(cluster):
                stop(f"{connected} connections use the database now.", "Stop the running Mattone, then restore again. Nothing was changed.")
            _ask(cluster, f"begin; alter database {DATABASE} rename to {before}; alter database {fresh} rename to {DATABASE}; commit")
            _put_media(Path(folder) / IN_DUMP_MEDIA, media, stamp)
    except SystemExit:
        cluster.ask(f"drop database if exists {fresh}")
        raise
    step(f"restored {file}; what was there before is kept in the database {before} and in {media.name}_before_{stamp}")


def _unpacked(file: Path, into: Path) -> Path:
    """The dump's database as a file; its photos beside it."""
    if not tarfile.is_tarfile(file):
        return file
    try:
        with tarfile.open(file) as whole:
            whole.extractall(into, filter="data")
    except (tarfile.TarError, EOFError, OSError) as error:
        stop(f"reading the dump failed: {error}.", "It is cut off or damaged; give another. Nothing was changed.")
    return into / IN_DUMP_DATABASE


def _put_media(fresh: Path, media: Path, stamp: str) -> None:
    """The photos of the dump in the place of the others, which are kept beside."""
    if media.exists():
        media.rename(media.with_name(f"{media.name}_before_{stamp}"))
    if fresh.is_dir():
        fresh.rename(media)


def _connected(cluster: Cluster) -> int:
    """How many use the database; those that are just leaving are waited for."""
    for _ in range(LEAVING_TRIES):
        count = int(cluster.ask(f"select count(*) from pg_stat_activity where datname = '{DATABASE}' and backend_type = 'client backend'").stdout.strip() or 0)
        if count == 0:
            return 0
        time.sleep(LEAVING_S)
    return count


def known_migrations() -> set[tuple[str, str]]:
    """The migrations this version of Mattone has, by app and name."""
    return {(path.parents[1].name, path.stem) for path in (ROOT / "server").glob("*/migrations/[0-9]*.py")}


def _refuse_newer(cluster: Cluster, database: str) -> None:
    """A dump of a newer Mattone would be misread by this one."""
    ours = {app for app, _ in known_migrations()}
    rows = cluster.ask("select app || ' ' || name from django_migrations", database=database).stdout.split("\n")
    if not any(row.strip() for row in rows):
        stop("this dump holds no Mattone.", "Give the file that `./mattone db dump FILE` wrote. Nothing was changed.")
    applied = {(app, name) for row in rows if row.strip() for app, name in [row.strip().split(" ", 1)] if app in ours}
    unknown = applied - known_migrations()
    if unknown:
        app, name = sorted(unknown)[0]
        stop(f"this dump was made by a newer Mattone ({app} {name}).", "Update Mattone, then restore it. Nothing was changed.")


def _ask(cluster: Cluster, sql: str) -> None:
    done = cluster.ask(sql)
    if done.returncode:
        stop(f"the database said: {done.stderr.strip()[-400:]}", "Nothing was changed.")


def _run(cluster: Cluster, program: str, options: list[str], password: str) -> None:
    done = subprocess.run([str(cluster.bin / program), *options], env=os.environ | {"PGPASSWORD": password}, capture_output=True, text=True)
    if done.returncode:
        stop(f"{program} failed: {done.stderr.strip()[-600:]}", "Nothing was changed.")
