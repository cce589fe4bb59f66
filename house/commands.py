"""The commands of `./mattone`."""

from __future__ import annotations

import contextlib
import os
import secrets
import signal
import subprocess
import sys
import time
import tomllib
import urllib.request
from collections.abc import Callable, Iterator
from pathlib import Path

from house.cluster import Cluster, free_port, port_taken
from house.install import build_web, ensure_python, ensure_web, environment, kernels
from house.machine import ensure_node, ensure_packages
from house.places import LOCAL, PYTHON, ROOT, WEB
from house.say import step, stop

USAGE = """usage: ./mattone COMMAND

  demo              set up everything, load the demo kitchen, serve it (Ctrl-C stops it)
  test [labels]     set up everything, run every test (or the labelled ones)
  dev               Django and Vite with hot reload, on the demo's data
  check             ruff, mypy, tsc, eslint, prettier; schema, types and migrations in step
  bench [--json]    benchmarks, as medians and ratios of one run
  engine NAME       the engine's own mouth: JSON on standard input, JSON out (simulate, plan, preheat, row, match, help_most, coverage, calibrate, schema)
  db start|stop|dump FILE|restore FILE
  evidence          remake docs/engine/evidence.md
  shots             remake docs/screenshots from the demo data
"""


def manage(*arguments: str, env: dict[str, str], quiet: bool = True) -> None:
    done = subprocess.run([str(PYTHON), "server/manage.py", *arguments], cwd=ROOT, env=env, capture_output=quiet, text=True)
    if done.returncode:
        if quiet:
            print((done.stdout + done.stderr)[-3000:])
        stop(f"manage.py {arguments[0]} failed.", "What it said is above.")


def secret_key() -> str:
    """The signing key of this checkout, made once."""
    file = LOCAL / "secret-key"
    if not file.exists():
        LOCAL.mkdir(parents=True, exist_ok=True)
        file.touch(mode=0o600)
        file.write_text(secrets.token_urlsafe(48))
    return file.read_text()


def set_up(*, browser: bool) -> None:
    ensure_packages(browser=browser)
    ensure_node()
    ensure_python()
    ensure_web()
    build_web()
    kernels()


@contextlib.contextmanager
def cluster_running() -> Iterator[tuple[Cluster, dict[str, str]]]:
    """The kept cluster, started when it was not, stopped again only if started here."""
    cluster = Cluster()
    was_running = cluster.running()
    cluster.start()
    try:
        yield cluster, environment(**cluster.client_environment(), MATTONE_SECRET_KEY=secret_key())
    finally:
        if not was_running:
            step("stopping PostgreSQL")
            cluster.stop()


def prepared(env: dict[str, str]) -> None:
    manage("migrate", "--no-input", env=env)
    manage("load_demo", env=env)


def web_port() -> int:
    wanted = int(os.environ.get("MATTONE_PORT", "8000"))
    return wanted if not port_taken(wanted) else free_port()


def wait_for(url: str, process: subprocess.Popen[bytes], seconds: float = 60.0) -> None:
    """Until the page answers; stop with a word if the server dies first."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        if process.poll() is not None:
            stop("the server stopped before it answered.", "What it said is above.")
        with contextlib.suppress(OSError):
            urllib.request.urlopen(url, timeout=2).close()
            return
        time.sleep(0.1)
    stop("the server did not answer within a minute.")


def stop_process(process: subprocess.Popen[bytes] | None) -> None:
    if process is not None and process.poll() is None:
        process.terminate()
        try:
            process.wait(10)
        except subprocess.TimeoutExpired:
            process.kill()


def uvicorn(env: dict[str, str], port: int, *more: str) -> subprocess.Popen[bytes]:
    # A session of its own: Ctrl-C reaches this process, which then stops its children in order.
    return subprocess.Popen(
        [str(PYTHON), "-m", "uvicorn", "config.asgi:application", "--host", "127.0.0.1", "--port", str(port),
         "--log-level", "warning", "--lifespan", "off", *more],
        cwd=ROOT / "server", env=env, start_new_session=True,
    )  # fmt: skip


def stand_in(env: dict[str, str], port: int) -> subprocess.Popen[bytes]:
    """The demo's wireless thermometer; it plays one preheat, MATTONE_INSTRUMENT_SPEED times as fast as real."""
    speed = os.environ.get("MATTONE_INSTRUMENT_SPEED", "20")
    command = [str(PYTHON), "server/manage.py", "stand_in", f"http://127.0.0.1:{port}", "--speed", speed]
    return subprocess.Popen(command, cwd=ROOT, env=env, start_new_session=True)


def demo_cook() -> tuple[str, str]:
    data = tomllib.loads((ROOT / "server" / "demo" / "kitchen.toml").read_text())
    return data["email"], data["password"]


def demo(arguments: list[str]) -> None:
    set_up(browser=False)
    with cluster_running() as (_, env):
        env |= {"MATTONE_FINDERS": "1"}
        step("migrating and loading the demo kitchen")
        prepared(env)
        port = web_port()
        server = uvicorn(env, port)
        instrument = None
        try:
            wait_for(f"http://127.0.0.1:{port}/", server)
            instrument = stand_in(env, port)
            email, password = demo_cook()
            print(
                f"\nMattone is at  http://127.0.0.1:{port}/\n  sign in as    {email}\n  password      {password}\n  Ctrl-C stops it; the data stays.\n",
                flush=True,
            )
            server.wait()
        except KeyboardInterrupt:
            print()
        finally:
            stop_process(instrument)
            stop_process(server)


def dev(arguments: list[str]) -> None:
    set_up(browser=False)
    with cluster_running() as (_, env):
        prepared(env)
        port, vite_port = web_port(), free_port()
        env |= {"MATTONE_DEBUG": "1", "MATTONE_VITE_PORT": str(vite_port)}
        vite = subprocess.Popen(["npx", "vite", "--host", "127.0.0.1", "--port", str(vite_port), "--strictPort"], cwd=WEB, start_new_session=True)
        server = uvicorn(env, port, "--reload", "--reload-dir", str(ROOT / "server"), "--reload-dir", str(ROOT / "engine"))
        instrument = None
        try:
            wait_for(f"http://127.0.0.1:{port}/", server)
            instrument = stand_in(env, port)
            email, password = demo_cook()
            print(f"\nMattone (dev) is at  http://127.0.0.1:{port}/   {email} / {password}\n", flush=True)
            server.wait()
        except KeyboardInterrupt:
            print()
        finally:
            stop_process(instrument)
            stop_process(server)
            with contextlib.suppress(ProcessLookupError):
                os.killpg(vite.pid, signal.SIGTERM)


def test(arguments: list[str]) -> None:
    set_up(browser=True)
    cluster = Cluster(throwaway=True)
    labels = arguments or ["engine/tests", "server", "house", "e2e"]
    try:
        cluster.start()
        env = environment(**cluster.client_environment(), MATTONE_SECRET_KEY="tests-only", MATTONE_FINDERS="1")
        step(f"running {' '.join(labels)}")
        done = subprocess.run([str(PYTHON), "server/manage.py", "test", "--parallel", "2", *labels], cwd=ROOT, env=env)
    finally:
        cluster.stop()
    raise SystemExit(done.returncode)


def check(arguments: list[str]) -> None:
    set_up(browser=False)
    env = environment()
    failed = []

    def one(name: str, command: list[str], cwd: Path = ROOT) -> None:
        done = subprocess.run(command, cwd=cwd, env=env, capture_output=True, text=True)
        step(f"{name}: {'ok' if done.returncode == 0 else 'FAILED'}")
        if done.returncode:
            failed.append(name)
            print((done.stdout + done.stderr)[-6000:])

    python = str(PYTHON)
    one("ruff", [python, "-m", "ruff", "check", "."])
    one("ruff format", [python, "-m", "ruff", "format", "--check", "."])
    one("mypy", [python, "-m", "mypy"])
    one("migrations in step", [python, "server/manage.py", "makemigrations", "--check", "--dry-run"])
    one("schema and types in step", [python, "-m", "house.schema", "--check"])
    one("tsc", ["npx", "tsc", "--noEmit"], WEB)
    one("eslint", ["npx", "eslint", "src"], WEB)
    one("prettier", ["npx", "prettier", "--check", "src"], WEB)
    if failed:
        stop(
            f"not in order: {', '.join(failed)}.", "`./mattone schema` remakes the schema and types; `ruff format .` and `npx prettier --write src` the layout."
        )


def schema(arguments: list[str]) -> None:
    ensure_python()
    ensure_web()
    raise SystemExit(subprocess.run([str(PYTHON), "-m", "house.schema"], cwd=ROOT, env=environment()).returncode)


def bench(arguments: list[str]) -> None:
    """On a database of its own: benchmarks make accounts and readings that nobody wants to keep."""
    set_up(browser=True)
    cluster = Cluster(throwaway=True)
    try:
        cluster.start()
        env = environment(**cluster.client_environment(), MATTONE_SECRET_KEY="bench-only", MATTONE_FINDERS="1")
        prepared(env)
        done = subprocess.run([str(PYTHON), "-m", "bench", *arguments], cwd=ROOT, env=env | {"PYTHONPATH": env["PYTHONPATH"] + f":{ROOT}"})
    finally:
        cluster.stop()
    raise SystemExit(done.returncode)


def engine(arguments: list[str]) -> None:
    """Quiet: standard output is the engine's alone."""
    if not PYTHON.exists():
        with contextlib.redirect_stdout(sys.stderr):
            ensure_python()
    raise SystemExit(subprocess.run([str(PYTHON), "-m", "mattone_engine", *arguments], cwd=ROOT, env=environment()).returncode)


def evidence(arguments: list[str]) -> None:
    """Remake docs/engine/evidence.md."""
    ensure_python()
    kernels()
    step("remaking docs/engine/evidence.md and its pictures (a minute or two)")
    done = subprocess.run(
        [str(PYTHON), "-m", "mattone_engine.evidence", str(ROOT / "docs" / "engine")], cwd=ROOT, env=environment(), capture_output=True, text=True
    )
    if done.returncode:
        stop(f"the evidence could not be made: {done.stderr[-1500:]}")


def db(arguments: list[str]) -> None:
    ensure_packages(browser=False)
    cluster = Cluster()
    match arguments:
        case ["start"]:
            cluster.start()
            step(f"PostgreSQL answers on 127.0.0.1:{cluster.facts()['port']}")
        case ["stop"]:
            cluster.stop()
            step("PostgreSQL is stopped")
        case ["dump" | "restore" as verb, file]:
            was_running = cluster.running()
            cluster.start()
            try:
                _dump_or_restore(cluster, verb, Path(file))
            finally:
                if not was_running:
                    cluster.stop()
        case _:
            stop("say what to do with the database.", "./mattone db start|stop|dump FILE|restore FILE")


def _dump_or_restore(cluster: Cluster, verb: str, file: Path) -> None:
    facts = cluster.facts()
    env = os.environ | {"PGPASSWORD": facts["password"]}
    reach = ["-h", "127.0.0.1", "-p", facts["port"], "-U", "mattone", "-d", "mattone"]
    if verb == "dump":
        command = [str(cluster.bin / "pg_dump"), *reach, "-Fc", "-f", str(file)]
    else:
        if not file.is_file():
            stop(f"there is no file {file}.", "Give the file that `./mattone db dump FILE` wrote.")
        command = [str(cluster.bin / "pg_restore"), *reach, "--clean", "--if-exists", "--single-transaction", "--no-owner", str(file)]
    done = subprocess.run(command, env=env, capture_output=True, text=True)
    if done.returncode:
        stop(f"{verb} failed: {done.stderr.strip()[-600:]}")
    step(f"{verb} done: {file}")


def shots(arguments: list[str]) -> None:
    set_up(browser=True)
    cluster = Cluster(throwaway=True)
    try:
        cluster.start()
        env = environment(**cluster.client_environment(), MATTONE_SECRET_KEY="shots-only", MATTONE_FINDERS="1")
        prepared(env)
        port = free_port()
        server = uvicorn(env, port)
        instrument = None
        try:
            wait_for(f"http://127.0.0.1:{port}/", server)
            instrument = stand_in(env | {"MATTONE_INSTRUMENT_SPEED": "60"}, port)
            done = subprocess.run(
                [str(PYTHON), "-m", "e2e.shots", f"http://127.0.0.1:{port}", *demo_cook(), *arguments],
                cwd=ROOT,
                env=env | {"PYTHONPATH": env["PYTHONPATH"] + f":{ROOT}"},
            )
        finally:
            stop_process(instrument)
            stop_process(server)
    finally:
        cluster.stop()
    raise SystemExit(done.returncode)


COMMANDS: dict[str, Callable[[list[str]], None]] = {
    "demo": demo, "test": test, "dev": dev, "check": check, "schema": schema, "bench": bench, "engine": engine, "db": db,
    "evidence": evidence, "shots": shots,
}  # fmt: skip


def main() -> None:
    if len(sys.argv) < 2 or sys.argv[1] not in COMMANDS:
        print(USAGE, end="")
        raise SystemExit(0 if len(sys.argv) == 2 and sys.argv[1] in ("help", "--help", "-h") else 2)
    # A polite stop from elsewhere ends like Ctrl-C, and Ctrl-C counts even where a shell started
    # this in the background: children and cluster are stopped.
    signal.signal(signal.SIGTERM, signal.default_int_handler)
    signal.signal(signal.SIGINT, signal.default_int_handler)
    try:
        COMMANDS[sys.argv[1]](sys.argv[2:])
    except KeyboardInterrupt:
        raise SystemExit(130) from None
