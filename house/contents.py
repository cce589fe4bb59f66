"""What is in a database and among the photos, as counts and hashes: noted when a dump is made, compared when it is verified."""

from __future__ import annotations

import contextlib
import hashlib
import os
import subprocess
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from house.cluster import DATABASE, Cluster
from house.say import stop

# Of every table: how many rows, and one hash over all of them in any order. What is only there to make answers faster is left out.
LEFT_OUT = ("mattone_cache",)
TABLES = "select quote_ident(tablename) from pg_tables where schemaname = 'public' and tablename not in ({}) order by 1"
ROWS = "select '{table}', count(*), coalesce(md5(string_agg(row, '' order by row)), '') from (select md5(t::text) as row from {table} t) as rows"

Tables = dict[str, tuple[int, str]]


@dataclass(frozen=True)
class Contents:
    """tables: rows and hash of each. files: hash of each photo file by its path."""

    tables: Tables
    files: dict[str, str]

    def as_json(self) -> dict[str, Any]:
        return {"tables": self.tables, "files": self.files}

    @classmethod
    def from_json(cls, noted: dict[str, Any]) -> Contents:
        return cls({table: (int(count), str(whole)) for table, (count, whole) in noted["tables"].items()}, dict(noted["files"]))


class Snapshot:
    """A session of psql in one transaction: whatever it reads is of the moment it began."""

    def __init__(self, cluster: Cluster, database: str) -> None:
        facts = cluster.facts()
        command = [str(cluster.bin / "psql"), *cluster.reach(facts, database), "-qAtX", "-F", "\t", "-v", "ON_ERROR_STOP=1"]
        self._session = subprocess.Popen(
            command, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.STDOUT, text=True,
            env=os.environ | {"PGPASSWORD": facts.password, "LC_ALL": "C", "PGCONNECT_TIMEOUT": "5"},
        )  # fmt: skip
        self.name = self._asked("begin isolation level repeatable read; select pg_export_snapshot();")[0]

    def _asked(self, sql: str) -> list[str]:
        """The lines of an answer."""
        assert self._session.stdin is not None and self._session.stdout is not None
        with contextlib.suppress(BrokenPipeError):
            self._session.stdin.write(f"{sql}\n\\echo done\n")
            self._session.stdin.flush()
        found: list[str] = []
        for line in self._session.stdout:
            if line.rstrip("\n") == "done":
                return found
            found.append(line.rstrip("\n"))
        return stop(f"the database said: {' '.join(found)[-400:]}", "Nothing was changed.")

    def tables(self) -> Tables:
        """Rows and hash of every table."""
        found: Tables = {}
        for table in self._asked(TABLES.format(", ".join(f"'{name}'" for name in LEFT_OUT)) + ";"):
            name, count, whole = self._asked(ROWS.format(table=table) + ";")[0].split("\t")
            found[name] = (int(count), whole)
        return found

    def end(self) -> None:
        assert self._session.stdin is not None and self._session.stdout is not None
        self._session.stdin.close()
        self._session.wait(30)
        self._session.stdout.close()


@contextmanager
def reading_snapshot(cluster: Cluster, database: str = DATABASE) -> Iterator[Snapshot]:
    """A snapshot, ended afterwards."""
    snapshot = Snapshot(cluster, database)
    try:
        yield snapshot
    finally:
        snapshot.end()


def media_contents(media: Path) -> dict[str, str]:
    """The hash of every file below a folder; of none where there is no folder."""
    files = sorted(path for path in media.rglob("*") if path.is_file()) if media.is_dir() else []
    return {str(path.relative_to(media)): hashlib.sha256(path.read_bytes()).hexdigest() for path in files}


def contents_of(cluster: Cluster, database: str, media: Path) -> Contents:
    with reading_snapshot(cluster, database) as snapshot:
        return Contents(snapshot.tables(), media_contents(media))


def differences(expected: Contents, found: Contents) -> list[str]:
    """What differs, in words; empty where nothing does."""
    wrong = []
    for table in sorted(expected.tables.keys() | found.tables.keys()):
        was, now = expected.tables.get(table), found.tables.get(table)
        if was != now:
            rows = f"{was[0]} rows were dumped, {now[0]} came back" if was and now and was[0] != now[0] else "its rows are not the same"
            wrong.append(f"table {table}: {rows if was and now else 'it is missing' if was else 'it was not dumped'}")
    missing = sorted(expected.files.keys() - found.files.keys())
    changed = sorted(name for name in expected.files.keys() & found.files.keys() if expected.files[name] != found.files[name])
    wrong += [f"photo {name}: it is missing" for name in missing] + [f"photo {name}: it has changed" for name in changed]
    return wrong
