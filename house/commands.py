"""The commands of `./mattone`."""

from __future__ import annotations

import contextlib
import json
import os
import secrets
import signal
import subprocess
import sys
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from datetime import UTC, datetime
from pathlib import Path

from house import alone, backups
from house.cluster import Cluster
from house.demo import demo_cook, serve_demo
from house.install import bundle_page, collect_static, ensure_python, ensure_web, environment, kernels, list_licences
from house.machine import ensure_node, ensure_packages
from house.packages import packages, sbom
from house.places import LOCAL, PYTHON, ROOT, WEB
from house.ports import free_port
from house.restore import dump, restore, verify
from house.say import step, stop
from house.serving import Family, server_command, stand_in_command, wait_for, web_port

USAGE = """usage: ./mattone COMMAND

  demo [--evening [SPEED]]
                    set up everything, load the demo kitchen, serve it (Ctrl-C stops it);
                    with --evening a hidden oven, thermometer, eyes and hands bake in it, 1 to 60 times as fast as real
  test [labels]     set up everything, run every test (or the labelled ones)
  dev               Django and Vite with hot reload, on the demo's data
  check             ruff, mypy, tsc, eslint, prettier; schema, types and migrations in step
  bench [--json]    benchmarks, as medians and ratios of one run
  engine NAME       the engine alone: JSON in, JSON out (simulate, plan, preheat, row, match, help_most, coverage, calibrate, lesson, next_time, live, schema)
  db start|stop|dump FILE|restore FILE|nightly|verify [FILE]
                    verify restores a dump (the newest nightly one) beside the data and compares it with what was dumped
  evidence          remake docs/engine/evidence.md
  shots             remake docs/screenshots from the demo data
  soak [NAME]       the long tests: plans, fuzz, kills, cooks, edges, memory
  sbom              the packages that are shipped, as a CycloneDX bill of materials on standard output
  password ADDRESS  set a new password for a cook of the demo's database
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


def set_up(*, browser: bool, development: bool = False) -> None:
    with alone.setting_up():
        ensure_node()
        # Side by side: two cores, and the network; what one raises is raised when all have ended.
        with ThreadPoolExecutor(3) as hands:
            debian: list[Callable[[], None]] = [lambda: ensure_packages(browser=browser)]
            in_turn(hands, [debian, [lambda: ensure_python(development=development), kernels], [ensure_web, bundle_page]])
            in_turn(hands, [[list_licences], [collect_static]])


def in_turn(hands: ThreadPoolExecutor, rows: list[list[Callable[[], None]]]) -> None:
    """All rows of acts at once, each row one act after another."""

    def one(row: list[Callable[[], None]]) -> None:
        for act in row:
            act()

    list(hands.map(one, rows))


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
    manage("createcachetable", env=env)
    manage("load_demo", env=env)


# As behind TLS, for Django's own check of what is served to the world.
DEPLOYED = {"MATTONE_TLS": "1", "MATTONE_SECRET_KEY": secrets.token_urlsafe(64)}


@contextlib.contextmanager
def family(cluster: Cluster | None = None) -> Iterator[Family]:
    """Children that end with this process, however it ends."""
    children = Family(cluster)
    try:
        yield children
    finally:
        children.end()


def demo(arguments: list[str]) -> None:
    """With --evening [SPEED] a bake is played in it, too."""
    speed = (arguments[1] if len(arguments) > 1 else "20") if arguments[:1] == ["--evening"] else None
    if arguments and (speed is None or not speed.isdigit() or not 1 <= int(speed) <= 60 or len(arguments) > 2):
        stop(f"demo: it knows --evening and how many times as fast as real, 1 to 60; you gave {' '.join(arguments)}.", "Try `./mattone demo --evening 20`.")
    with alone.serving() as served:
        set_up(browser=False)
        with cluster_running() as (cluster, env), family(cluster) as children:
            step("migrating and loading the demo kitchen")
            prepared(env)
            code = 0
            try:
                code = serve_demo(cluster, env, children, served, speed)
            except KeyboardInterrupt:
                print()
    raise SystemExit(code)


def dev(arguments: list[str]) -> None:
    set_up(browser=False, development=True)
    with cluster_running() as (cluster, env), family(cluster) as children:
        prepared(env)
        port, vite_port = web_port(), free_port()
        env |= {"MATTONE_DEBUG": "1", "MATTONE_FINDERS": "1", "MATTONE_VITE_PORT": str(vite_port)}
        children.add(["npx", "vite", "--host", "127.0.0.1", "--port", str(vite_port), "--strictPort"], cwd=WEB)
        reload = ("--reload", str(ROOT / "server"), str(ROOT / "engine"))
        server = children.add(server_command(port, *reload), cwd=ROOT / "server", env=env)
        wait_for(f"http://127.0.0.1:{port}/", server)
        children.add(stand_in_command(port), env=env)
        email, password = demo_cook()
        print(f"\nMattone (dev) is at  http://127.0.0.1:{port}/   {email} / {password}\n", flush=True)
        code = 0
        try:
            code = server.wait()
        except KeyboardInterrupt:
            print()
    raise SystemExit(code)


@contextlib.contextmanager
def throwaway_cluster(purpose: str) -> Iterator[dict[str, str]]:
    """The environment of a database that is gone afterwards."""
    cluster = Cluster(throwaway=True)
    try:
        cluster.start()
        yield environment(**cluster.client_environment(), MATTONE_SECRET_KEY=f"{purpose}-only-{secrets.token_urlsafe(40)}", MATTONE_FINDERS="1")
    finally:
        cluster.stop()


def test(arguments: list[str]) -> None:
    set_up(browser=True, development=True)
    # The stories come first of their kind: the longest must not be what all others have to be waited for.
    labels = arguments or ["e2e", "engine/tests", "server", "house", "web"]
    with throwaway_cluster("tests") as env:
        # Memory is kept for the next test: given back and asked for again, it costs a quarter of the time.
        env |= {"MALLOC_TRIM_THRESHOLD_": str(1 << 28), "MALLOC_MMAP_THRESHOLD_": str(1 << 28)}
        step(f"running {' '.join(labels)}")
        done = subprocess.run([str(PYTHON), "server/manage.py", "test", "--parallel", "2", *labels], cwd=ROOT, env=env)
    raise SystemExit(done.returncode)


def measured(name: str, module: str, arguments: list[str]) -> None:
    """Run a module with a browser at hand, on a database that is thrown away after."""
    set_up(browser=True, development=True)
    with throwaway_cluster(name) as env:
        prepared(env)
        done = subprocess.run([str(PYTHON), "-m", module, *arguments], cwd=ROOT, env=env)
    raise SystemExit(done.returncode)


def soak(arguments: list[str]) -> None:
    """The long versions: many plans, kills, requests, cooks. `soak plans`, `soak fuzz`, `soak kills`, `soak cooks`; all without a name."""
    measured("soak", "e2e.soak", arguments)


def password(arguments: list[str]) -> None:
    """A forgotten password, on one's own machine: no mail is needed."""
    if len(arguments) != 1:
        stop("say whose password.", "./mattone password ADDRESS")
    with cluster_running() as (_, env):
        done = subprocess.run([str(PYTHON), "server/manage.py", "set_password", arguments[0]], cwd=ROOT, env=env)
    raise SystemExit(done.returncode)


def check(arguments: list[str]) -> None:
    set_up(browser=False, development=True)
    env, python, failed = environment(), str(PYTHON), []
    checks: dict[str, tuple[list[str], Path, dict[str, str]]] = {
        "mypy": ([python, "-m", "mypy"], ROOT, env),
        "tsc": (["npx", "tsc", "--noEmit"], WEB, env),
        "eslint": (["npx", "eslint", "src"], WEB, env),
        "prettier": (["npx", "prettier", "--check", "src"], WEB, env),
        "ruff": ([python, "-m", "ruff", "check", "."], ROOT, env),
        "ruff format": ([python, "-m", "ruff", "format", "--check", "."], ROOT, env),
        "deployment": ([python, "server/manage.py", "check", "--deploy", "--fail-level", "WARNING"], ROOT, env | DEPLOYED),
        "migrations in step": ([python, "server/manage.py", "makemigrations", "--check", "--dry-run"], ROOT, env),
        "schema and types in step": ([python, "-m", "house.schema", "--check"], ROOT, env),
    }

    def one(name: str) -> None:
        command, cwd, env = checks[name]
        done = subprocess.run(command, cwd=cwd, env=env, capture_output=True, text=True)
        step(f"{name}: {'ok' if done.returncode == 0 else 'FAILED'}")
        if done.returncode:
            failed.append(name)
            print((done.stdout + done.stderr)[-6000:])

    # The longest first, two at a time.
    with ThreadPoolExecutor(2) as hands:
        list(hands.map(one, checks))
    if failed:
        stop(
            f"not in order: {', '.join(failed)}.", "`./mattone schema` remakes the schema and types; `ruff format .` and `npx prettier --write src` the layout."
        )


def schema(arguments: list[str]) -> None:
    ensure_python(development=True)
    ensure_web()
    raise SystemExit(subprocess.run([str(PYTHON), "-m", "house.schema"], cwd=ROOT, env=environment()).returncode)


def bench(arguments: list[str]) -> None:
    """On a database of its own: benchmarks make accounts and readings that nobody wants to keep."""
    measured("bench", "bench", arguments)


def engine(arguments: list[str]) -> None:
    """Quiet: standard output is the engine's alone."""
    if not PYTHON.exists():
        with contextlib.redirect_stdout(sys.stderr):
            ensure_python()
    raise SystemExit(subprocess.run([str(PYTHON), "-m", "mattone_engine", *arguments], cwd=ROOT, env=environment()).returncode)


def evidence(arguments: list[str]) -> None:
    """Remake docs/engine/evidence.md."""
    ensure_python(development=True)
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
            step(f"PostgreSQL answers on 127.0.0.1:{cluster.facts().port}")
        case ["stop"]:
            cluster.stop()
            step("PostgreSQL is stopped")
        case ["dump", file]:
            with cluster_running() as (running, _):
                dump(running, where_the_cook_stands(file))
        case ["restore", file]:
            ensure_python()
            with cluster_running() as (running, env):
                restore(running, where_the_cook_stands(file), lambda reached: manage("migrate", "--no-input", env=env | reached))
        case ["nightly"]:
            with cluster_running() as (running, _):
                backups.make_nightly(datetime.now(), lambda file: dump(running, file))
        case ["verify", *files] if len(files) < 2:
            made = backups.nightly_dumps()
            if not files and not made:
                stop("there is no nightly dump yet.", "Make one with `./mattone db nightly`, or give a FILE.")
            with cluster_running() as (running, _):
                verify(running, where_the_cook_stands(files[0]) if files else made[-1])
        case _:
            stop("say what to do with the database.", "./mattone db start|stop|dump FILE|restore FILE|nightly|verify [FILE]")


def where_the_cook_stands(file: str) -> Path:
    """A file as it was meant where the command was typed."""
    return Path(os.environ.get("MATTONE_CWD", ".")).joinpath(file).absolute()


def bill_of_materials(arguments: list[str]) -> None:
    """Quiet: standard output is the document's alone."""
    with contextlib.redirect_stdout(sys.stderr), alone.setting_up():
        ensure_python()
        ensure_web()
    version = next(
        line.split('"')[1] for line in (ROOT / "engine/mattone_engine/__init__.py").read_text().splitlines() if "ENGINE_VERSION" in line and '"' in line
    )
    print(json.dumps(sbom(packages(), version, datetime.now(UTC).isoformat(timespec="seconds")), indent=1))


def shots(arguments: list[str]) -> None:
    set_up(browser=True, development=True)
    with throwaway_cluster("shots") as env, family() as children:
        prepared(env)
        port = free_port()
        server = children.add(server_command(port), cwd=ROOT / "server", env=env)
        wait_for(f"http://127.0.0.1:{port}/", server)
        os.environ["MATTONE_INSTRUMENT_SPEED"] = "60"
        children.add(stand_in_command(port), env=env)
        done = subprocess.run(
            [str(PYTHON), "-m", "e2e.shots", f"http://127.0.0.1:{port}", *demo_cook(), *arguments],
            cwd=ROOT,
            env=env,
        )
    raise SystemExit(done.returncode)


COMMANDS: dict[str, Callable[[list[str]], None]] = {
    "demo": demo, "test": test, "dev": dev, "check": check, "schema": schema, "bench": bench, "engine": engine, "db": db,
    "evidence": evidence, "shots": shots, "soak": soak, "password": password, "sbom": bill_of_materials,
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
