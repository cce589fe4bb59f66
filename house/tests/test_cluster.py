"""The cluster is never lost: whatever is missing, half written or killed, its rows are there afterwards."""

from __future__ import annotations

import contextlib
import errno
import io
import json
import os
import signal
import subprocess
import tarfile
import tempfile
import threading
import time
from pathlib import Path
from typing import Any
from unittest import TestCase, mock

from house import facts, restore
from house.cluster import Cluster
from house.facts import Facts
from house.ports import port_taken
from house.say import stop

# Where the user postgres may enter: the tests may run as root.
PLACE = Path(tempfile.gettempdir())


class FactsKept(TestCase):
    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.file = facts.place(self.folder)

    def test_what_is_written_is_read_and_only_its_owner_reads_it(self) -> None:
        facts.write(self.file, Facts(5433, "secret"))
        self.assertEqual(facts.read(self.file), Facts(5433, "secret"))
        self.assertEqual(self.file.stat().st_mode & 0o777, 0o600)
        facts.write(self.file, Facts(5434, "secret"))
        self.assertEqual(facts.read(self.file), Facts(5434, "secret"))
        self.assertEqual([path.name for path in self.folder.iterdir()], [self.file.name], "nothing is left beside")

    def test_missing_empty_half_written_and_strange_are_none(self) -> None:
        self.assertIsNone(facts.read(self.file))
        for text in ("", "{", '{"port": "54', "null", "[]", '{"port": 0, "password": "x"}', '{"port": "a", "password": "x"}', '{"port": 1}',
                     '{"port": 5433, "password": ""}', '{"port": 5433, "password": 7}'):  # fmt: skip
            with self.subTest(text=text):
                self.file.write_text(text)
                self.assertIsNone(facts.read(self.file))

    def test_a_write_that_breaks_off_leaves_the_old_ones(self) -> None:
        facts.write(self.file, Facts(5433, "secret"))
        with mock.patch("os.fsync", side_effect=OSError("no room")), self.assertRaises(OSError):
            facts.write(self.file, Facts(1, "half"))
        self.assertEqual(facts.read(self.file), Facts(5433, "secret"))
        # What was left beside does not stand in the way of the next.
        facts.write(self.file, Facts(5435, "next"))
        self.assertEqual(facts.read(self.file), Facts(5435, "next"))


class Kept(TestCase):
    """One cluster, hurt in one way after another; one row must stay."""

    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.folder = Path(tempfile.mkdtemp(prefix="mattone-kept-", dir=PLACE))
        cls.folder.chmod(0o755)
        cls.cluster = Cluster(folder=cls.folder / "postgres")
        cls.cluster.start()
        cls.sql("create table kept (what text); insert into kept values ('supper')")

    @classmethod
    def tearDownClass(cls) -> None:
        cls.cluster.throwaway = True
        cls.cluster.stop()
        subprocess.run(["rm", "-rf", str(cls.folder)], check=True)
        super().tearDownClass()

    @classmethod
    def sql(cls, statement: str) -> str:
        done = cls.cluster.ask(statement, database="mattone")
        assert done.returncode == 0, done.stderr
        return done.stdout.strip()

    def setUp(self) -> None:
        self.cluster = Cluster(folder=self.folder / "postgres")
        self.cluster.start()

    def is_whole(self) -> None:
        """The row is there, by a cluster object that knows nothing but the folder."""
        again = Cluster(folder=self.folder / "postgres")
        again.start()
        self.assertTrue(again.running())
        self.assertEqual(again.ask("select what from kept", database="mattone").stdout.strip(), "supper")
        self.assertEqual(list(self.folder.glob("postgres.aside*")) + list(again.folder.glob("data.aside*")), [])

    def test_facts_lost_while_it_runs_and_while_it_stands(self) -> None:
        for running in (True, False):
            for hurt in ("gone", "empty", "half"):
                with self.subTest(running=running, hurt=hurt):
                    if not running:
                        self.cluster.stop()
                    file = facts.place(self.cluster.data)
                    file.unlink() if hurt == "gone" else file.write_text({"empty": "", "half": '{"port": "54'}[hurt])
                    self.is_whole()

    def test_facts_where_they_were_kept_before_are_found(self) -> None:
        told = self.cluster.facts()
        facts.place(self.cluster.data).unlink()
        facts.write(self.cluster.older_facts, told)
        self.assertTrue(Cluster(folder=self.folder / "postgres").running())
        self.cluster.older_facts.unlink()
        facts.write(facts.place(self.cluster.data), told)

    def test_killed_outright(self) -> None:
        pid = int((self.cluster.data / "postmaster.pid").read_text().split()[0])
        os.kill(pid, signal.SIGKILL)
        self.is_whole()

    def test_a_process_id_of_somebody_else_is_not_running(self) -> None:
        self.cluster.stop()
        # As after a crash: the noted process lives, and is another program.
        (self.cluster.data / "postmaster.pid").write_text(f"{os.getpid()}\n{self.cluster.data}\n")
        self.assertFalse(self.cluster.running())
        self.is_whole()

    def test_a_port_that_somebody_else_took_is_left_to_them(self) -> None:
        self.cluster.stop()
        told = self.cluster.facts()
        other = Cluster(folder=self.folder / "other")
        try:
            with mock.patch("house.cluster.free_port", return_value=told.port):
                other.start()
            self.assertFalse(self.cluster.running(), "who answers there is another cluster")
            self.is_whole()
            self.assertNotEqual(self.cluster.facts().port, told.port)
            self.assertTrue(other.running())
        finally:
            other.throwaway = True
            other.stop()

    def test_a_half_made_cluster_is_moved_aside_and_said(self) -> None:
        half = Cluster(folder=self.folder / "half")
        try:
            (half.folder / "data").mkdir(parents=True)
            (half.folder / "data" / "PG_VERSION").write_text("15\n")
            (half.folder / "data.making").mkdir()
            (half.folder / "data.making" / "base").write_text("x")
            with mock.patch("house.cluster.step") as said:
                half.start()
            self.assertTrue(half.running())
            aside = sorted(path.name.split(".aside")[0] for path in half.folder.glob("*.aside*"))
            self.assertEqual(aside, ["data", "data.making"])
            self.assertIn("is kept as", str(said.call_args_list))
        finally:
            half.throwaway = True
            half.stop()

    def test_data_of_another_postgresql_are_told_and_left(self) -> None:
        self.cluster.stop()
        version = self.cluster.data / "PG_VERSION"
        kept = version.read_text()
        version.write_text("9\n")
        try:
            with self.assertRaises(SystemExit), mock.patch("house.say.print", create=True):
                self.cluster.start()
        finally:
            version.write_text(kept)
        self.is_whole()

    def test_nothing_of_ours_is_ever_removed_but_a_throw_away_one(self) -> None:
        source = Path(__file__).resolve().parents[1].glob("*.py")
        removers = [path.name for path in source if "rmtree" in path.read_text(encoding="utf-8")]
        self.assertEqual(removers, ["cluster.py"])
        self.cluster.stop()
        self.assertTrue(self.cluster.there())


class Dumps(TestCase):
    @classmethod
    def setUpClass(cls) -> None:
        super().setUpClass()
        cls.cluster = Cluster(throwaway=True)
        cls.cluster.start()
        cls.cluster.ask("create table django_migrations (app text, name text); create table kept (what text)", database="mattone")
        cls.cluster.ask("insert into kept values ('first'); insert into django_migrations values ('plans', '0001_initial')", database="mattone")

    @classmethod
    def tearDownClass(cls) -> None:
        cls.cluster.stop()
        super().tearDownClass()

    def setUp(self) -> None:
        self.folder = Path(self.enterContext(tempfile.TemporaryDirectory()))
        self.file = self.folder / "kitchen.dump"
        self.media = self.folder / "kept" / "media"
        self.media.mkdir(parents=True)
        (self.media / "photo.jpg").write_bytes(b"first")

    def kept(self) -> str:
        return self.cluster.ask("select string_agg(what, ' ' order by what) from kept", database="mattone").stdout.strip()

    def test_a_dump_comes_back_and_what_was_there_is_kept_aside(self) -> None:
        restore.dump(self.cluster, self.file, self.media)
        self.assertEqual(self.file.stat().st_mode & 0o777, 0o600)
        self.assertEqual({path.name for path in self.folder.iterdir()}, {self.file.name, "kept"})
        (self.media / "photo.jpg").write_bytes(b"second")
        self.cluster.ask("insert into kept values ('second')", database="mattone")
        migrated: list[dict[str, str]] = []
        restore.restore(self.cluster, self.file, migrated.append, self.media)
        self.assertEqual(self.kept(), "first")
        self.assertEqual((self.media / "photo.jpg").read_bytes(), b"first")
        self.assertEqual([(path / "photo.jpg").read_bytes() for path in self.media.parent.glob("media_before_*")], [b"second"])
        self.assertEqual(len(list(self.media.parent.iterdir())), 2, "nothing is left half unpacked")
        self.assertTrue(migrated[0]["MATTONE_DB_NAME"].startswith("mattone_restored_"), "migrated before it is put in place")
        before = self.cluster.ask("select datname from pg_database where datname like 'mattone_before%'").stdout.split()
        self.assertEqual(self.cluster.ask("select count(*) from kept", database=before[-1]).stdout.strip(), "2")

    def test_what_comes_back_is_its_owners_alone(self) -> None:
        inside = self.media / "photos" / "7"
        inside.mkdir(parents=True)
        (inside / "a.jpg").write_bytes(b"a")
        for path in (self.media, inside.parent, inside):
            path.chmod(0o755)
        (inside / "a.jpg").chmod(0o644)
        restore.dump(self.cluster, self.file, self.media)
        restore.restore(self.cluster, self.file, lambda env: None, self.media)
        modes = {path.name: path.stat().st_mode & 0o777 for path in (self.media, inside.parent, inside, inside / "a.jpg")}
        self.assertEqual(modes, {"media": 0o700, "photos": 0o700, "7": 0o700, "a.jpg": 0o600})

    def test_a_full_disk_is_said_and_nothing_is_left_behind(self) -> None:
        full = OSError(errno.ENOSPC, os.strerror(errno.ENOSPC))
        for place in ("tarfile.TarFile.add", "tempfile.TemporaryDirectory.__enter__", "os.open"):
            with mock.patch(place, side_effect=full), self.assertRaises(SystemExit), mock.patch("builtins.print") as said:
                restore.dump(self.cluster, self.file, self.media)
            self.assertIn("No space left on device", str(said.call_args_list))
            self.assertEqual([path.name for path in self.folder.iterdir()], ["kept"])

    def verified(self, file: Path) -> str:
        """What verifying says; it leaves nothing behind."""
        databases = self.cluster.ask("select count(*) from pg_database").stdout
        with mock.patch("builtins.print") as said, contextlib.suppress(SystemExit):
            restore.verify(self.cluster, file, self.media)
        self.assertEqual(self.cluster.ask("select count(*) from pg_database").stdout, databases)
        self.assertEqual([path.name for path in self.media.parent.iterdir()], ["media"])
        return str(said.call_args_list)

    def test_a_dump_is_proved_by_restoring_and_comparing_it(self) -> None:
        restore.dump(self.cluster, self.file, self.media)
        self.assertIn("2 tables with", self.verified(self.file))
        # What comes after it changes nothing.
        self.cluster.ask("insert into kept values ('later')", database="mattone")
        self.assertIn("all as they were", self.verified(self.file))
        self.cluster.ask("delete from kept where what = 'later'", database="mattone")
        whole = self.folder / "whole"
        self.file.rename(whole)
        for part, change, word in (
            ("tables", {"kept": [5, "x"]}, "5 rows were dumped"), ("files", {"photo.jpg": "x"}, "photo.jpg: it has changed"),
            ("files", {"lost.jpg": "x"}, "lost.jpg: it is missing"), ("tables", {"gone": [1, "x"]}, "table gone: it is missing"),
        ):  # fmt: skip
            self.rewritten(whole, part, change)
            self.assertIn(word, self.verified(self.file))
        self.file.write_bytes(whole.read_bytes()[:-100])
        self.assertIn("failed", self.verified(self.file))

    def rewritten(self, whole: Path, part: str, change: dict[str, Any]) -> None:
        """The dump, with another note of what is in it."""
        with tarfile.open(whole) as found, tarfile.open(self.file, "w:gz") as other:
            for member in found.getmembers():
                data = found.extractfile(member)
                assert data is not None
                text = data.read()
                if member.name == restore.IN_DUMP_CONTENTS:
                    noted = json.loads(text)
                    noted[part].update(change)
                    text = json.dumps(noted).encode()
                member.size = len(text)
                other.addfile(member, io.BytesIO(text))

    def test_what_is_written_meanwhile_is_in_the_dump_and_its_note_or_in_neither(self) -> None:
        stop_writing = threading.Event()

        def write() -> None:
            while not stop_writing.is_set():
                self.cluster.ask("insert into kept values ('meanwhile')", database="mattone")

        writer = threading.Thread(target=write)
        writer.start()
        try:
            restore.dump(self.cluster, self.file, self.media)
        finally:
            stop_writing.set()
            writer.join()
        self.assertIn("all as they were", self.verified(self.file))
        self.cluster.ask("delete from kept where what = 'meanwhile'", database="mattone")

    def test_nothing_is_written_over(self) -> None:
        self.file.write_text("last year's")
        with self.assertRaises(SystemExit), mock.patch("builtins.print"):
            restore.dump(self.cluster, self.file, self.media)
        self.assertEqual(self.file.read_text(), "last year's")

    def refused(self, file: Path, word: str, migrate: object = lambda env: None) -> None:
        before = self.kept()
        databases = self.cluster.ask("select count(*) from pg_database").stdout
        with self.assertRaises(SystemExit), mock.patch("builtins.print") as said:
            restore.restore(self.cluster, file, migrate, self.media)  # type: ignore[arg-type]
        self.assertIn(word, str(said.call_args_list))
        self.assertEqual([path.name for path in self.media.parent.iterdir()], ["media"])
        self.assertEqual((self.media / "photo.jpg").read_bytes(), b"first")
        self.assertEqual(self.kept(), before)
        self.assertEqual(self.cluster.ask("select count(*) from pg_database").stdout, databases, "nothing is left behind")

    def test_what_cannot_be_restored_changes_nothing(self) -> None:
        self.refused(self.folder / "missing", "no file")
        self.file.write_bytes(b"\x00not a dump")
        self.refused(self.file, "failed")
        whole = self.folder / "whole"
        restore.dump(self.cluster, whole, self.media)
        self.file.write_bytes(whole.read_bytes()[:-200])
        self.refused(self.file, "failed")
        self.refused(whole, "cannot be migrated", lambda env: stop("this cannot be migrated."))

    def test_a_dump_from_before_there_were_photos_is_read(self) -> None:
        told = self.cluster.facts()
        command = [str(self.cluster.bin / "pg_dump"), *self.cluster.reach(told), "-Fc", "-f", str(self.file)]
        subprocess.run(command, env=os.environ | {"PGPASSWORD": told.password}, check=True)
        kept = self.kept()
        restore.restore(self.cluster, self.file, lambda env: None, self.media)
        self.assertEqual((self.kept(), self.media.exists()), (kept, False))

    def test_a_dump_of_a_newer_mattone_is_told(self) -> None:
        self.cluster.ask("insert into django_migrations values ('plans', '0999_from_the_future')", database="mattone")
        try:
            restore.dump(self.cluster, self.file, self.media)
        finally:
            self.cluster.ask("delete from django_migrations where name like '0999%'", database="mattone")
        self.refused(self.file, "newer Mattone")
        self.assertIn(("plans", "0001_initial"), restore.known_migrations())

    def test_a_database_in_use_is_not_swapped_under_its_users(self) -> None:
        restore.dump(self.cluster, self.file, self.media)
        told = self.cluster.facts()
        user = subprocess.Popen(
            [str(self.cluster.bin / "psql"), *self.cluster.reach(told), "-c", "select pg_sleep(30)"],
            env=os.environ | {"PGPASSWORD": told.password}, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL,
        )  # fmt: skip
        try:
            end = time.monotonic() + 10
            while self.cluster.ask("select count(*) from pg_stat_activity where query like '%pg_sleep%' and datname = 'mattone'").stdout.strip() == "0":
                self.assertLess(time.monotonic(), end)
                time.sleep(0.05)
            self.refused(self.file, "connections use the database")
        finally:
            user.kill()
            user.wait()
            # A killed client's sleep goes on without it.
            self.cluster.ask("select pg_terminate_backend(pid) from pg_stat_activity where query like '%pg_sleep(30)%' and pid <> pg_backend_pid()")


class Throwaway(TestCase):
    def test_it_wants_its_password_and_leaves_nothing(self) -> None:
        cluster = Cluster(throwaway=True)
        try:
            cluster.start()
            told = cluster.facts()
            self.assertEqual(cluster.ask("show fsync").stdout.strip(), "off")
            self.assertNotEqual(cluster.ask("show fsync", facts=Facts(told.port, "guess")).returncode, 0)
            cluster.start()
            self.assertEqual(cluster.facts(), told, "a running cluster is left alone")
        finally:
            cluster.stop()
        self.assertFalse(cluster.folder.exists())
        self.assertFalse(port_taken(told.port))
