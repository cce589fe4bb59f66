"""Dump the kept database and the photos to a file, bring a dump back without touching what is there, and prove that a dump can be restored."""

from __future__ import annotations

import json
import os
import secrets
import subprocess
import tarfile
import tempfile
import time
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path

from house.cluster import DATABASE, Cluster
from house.contents import Contents, contents_of, differences, media_contents, reading_snapshot
from house.places import LOCAL, ROOT
from house.say import step, stop

# Whoever closed a connection is gone from the list a moment later.
LEAVING_TRIES, LEAVING_S = 15, 0.1
# Where the photos are, and what is what in a dump: a database as pg_dump writes it, a folder, and what is in both.
MEDIA = LOCAL / "media"
IN_DUMP_DATABASE, IN_DUMP_MEDIA, IN_DUMP_CONTENTS = "database", "media", "contents.json"


def dump(cluster: Cluster, file: Path, media: Path = MEDIA) -> None:
    """Everything in one file that only its owner reads; written beside, then renamed. The database first: no row in it lacks its photo."""
    if file.exists():
        stop(f"there is a file {file} already.", "Give another name, or move it away first.")
    if not file.parent.is_dir():
        stop(f"there is no folder {file.parent}.", "Make it first, or give another place.")
    beside = file.with_name(f".{file.name}.{secrets.token_hex(4)}")
    try:
        os.close(os.open(beside, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600))
        with tempfile.TemporaryDirectory(dir=file.parent) as folder:
            _dump_into(cluster, Path(folder), beside, media)
        beside.rename(file)
    except OSError as error:
        stop(f"the dump could not be written: {error.strerror or error}.", "Make room, or give another place. Nothing was changed, and nothing is left behind.")
    finally:
        beside.unlink(missing_ok=True)
    step(f"dumped to {file}; only you can read it")


def _dump_into(cluster: Cluster, folder: Path, file: Path, media: Path) -> None:
    facts = cluster.facts()
    database = folder / IN_DUMP_DATABASE
    # What is dumped and what is noted of it are of one moment.
    with reading_snapshot(cluster) as snapshot:
        _run(cluster, "pg_dump", [*cluster.reach(facts), "-Fc", f"--snapshot={snapshot.name}", "-f", str(database)], facts.password)
        tables = snapshot.tables()
    with tarfile.open(file, "w:gz", compresslevel=1) as whole:
        whole.add(database, IN_DUMP_DATABASE)
        files = media_contents(media)
        noted = folder / IN_DUMP_CONTENTS
        noted.write_text(json.dumps(Contents(tables, files).as_json()))
        whole.add(noted, IN_DUMP_CONTENTS)
        for name in files:
            whole.add(media / name, f"{IN_DUMP_MEDIA}/{name}")


def restore(cluster: Cluster, file: Path, migrate: Callable[[dict[str, str]], None], media: Path = MEDIA) -> None:
    """The dump into a database and a folder of its own, brought up to this version, then put in the place of the others.

    What was there is kept under another name. Anything that goes wrong leaves it in its place. A dump of before there were photos is a database alone.
    """
    stamp = f"{time.strftime('%Y%m%d_%H%M%S')}_{secrets.token_hex(2)}"
    fresh, before = f"{DATABASE}_restored_{stamp}", f"{DATABASE}_before_{stamp}"
    try:
        with _unpacked_beside(cluster, file, fresh, media) as folder:
            _refuse_newer(cluster, fresh)
            migrate(cluster.client_environment(fresh))
            if connected := _connected(cluster):
                stop(f"{connected} connections use the database now.", "Stop the running Mattone, then restore again. Nothing was changed.")
            _ask(cluster, f"begin; alter database {DATABASE} rename to {before}; alter database {fresh} rename to {DATABASE}; commit")
            _put_media(folder / IN_DUMP_MEDIA, media, stamp)
    except SystemExit:
        cluster.ask(f"drop database if exists {fresh}")
        raise
    step(f"restored {file}; what was there before is kept in the database {before} and in {media.name}_before_{stamp}")


def verify(cluster: Cluster, file: Path, media: Path = MEDIA) -> None:
    """Restore a dump beside what is there, compare every table and every photo with what was noted as it was made, and remove it again.

    Stops with words where anything differs. A dump from before contents were noted is only restored.
    """
    fresh = f"{DATABASE}_verified_{secrets.token_hex(4)}"
    try:
        with _unpacked_beside(cluster, file, fresh, media) as folder:
            noted = folder / IN_DUMP_CONTENTS
            if not noted.exists():
                step(f"{file} can be restored; what is in it was not noted when it was made, so it is not compared")
                return
            expected = Contents.from_json(json.loads(noted.read_text()))
            wrong = differences(expected, contents_of(cluster, fresh, folder / IN_DUMP_MEDIA))
            if wrong:
                stop(f"{file} does not hold what was dumped: {'; '.join(wrong[:5])}.", "Make a new dump with ./mattone db dump FILE.")
            rows = sum(count for count, _ in expected.tables.values())
            step(f"{file} can be restored: {len(expected.tables)} tables with {rows} rows and {len(expected.files)} photo files, all as they were")
    finally:
        cluster.ask(f"drop database if exists {fresh}")


@contextmanager
def _unpacked_beside(cluster: Cluster, file: Path, database: str, media: Path) -> Iterator[Path]:
    """A dump restored into a new database, and its other parts in a folder that is gone afterwards."""
    if not file.is_file():
        stop(f"there is no file {file}.", "Give the file that `./mattone db dump FILE` wrote.")
    facts = cluster.facts()
    media.parent.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(prefix="restoring-", dir=media.parent) as folder:
        packed = _unpacked(file, Path(folder))
        _ask(cluster, f"create database {database}")
        _run(cluster, "pg_restore", [*cluster.reach(facts, database), "--single-transaction", "--no-owner", str(packed)], facts.password)
        yield Path(folder)


def _private(member: tarfile.TarInfo, path: str) -> tarfile.TarInfo | None:
    """tarfile's own filter for data, and then modes as Mattone keeps them: readable by their owner alone."""
    safe = tarfile.data_filter(member, path)
    return safe.replace(mode=0o700 if safe.isdir() else 0o600, deep=False) if safe is not None else None


def _unpacked(file: Path, into: Path) -> Path:
    """The dump's database as a file; its photos beside it."""
    if not tarfile.is_tarfile(file):
        return file
    try:
        with tarfile.open(file) as whole:
            whole.extractall(into, filter=_private)
    except (tarfile.TarError, EOFError, OSError) as error:
        stop(f"reading the dump failed: {error}.", "It is cut off or damaged; give another. Nothing was changed.")
    for folder, _, _ in os.walk(into):
        # Folders that the dump does not name are made as tarfile likes.
        Path(folder).chmod(0o700)
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
