"""Python packages, web packages, the built page and compiled kernels; each only when its inputs changed."""

from __future__ import annotations

import hashlib
import os
import subprocess
import sys
from collections.abc import Iterable, Sequence
from pathlib import Path

from house.packages import licences_json, packages
from house.places import LOCAL, PYTHON, ROOT, VENV, WEB, python_path
from house.say import step, stop


def digest(paths: Iterable[Path]) -> str:
    """One hash over names and contents."""
    whole = hashlib.sha256()
    for path in sorted(paths):
        whole.update(str(path.relative_to(ROOT)).encode())
        whole.update(path.read_bytes())
    return whole.hexdigest()


def _stamped(name: str, value: str) -> bool:
    mark = LOCAL / "stamps" / name
    return mark.exists() and mark.read_text() == value


def _stamp(name: str, value: str) -> None:
    mark = LOCAL / "stamps" / name
    mark.parent.mkdir(parents=True, exist_ok=True)
    mark.write_text(value)


def run(command: Sequence[str | Path], what: str, hint: str, *, cwd: Path = ROOT, env: dict[str, str] | None = None) -> None:
    """Run quietly; on failure show the end of what it said and stop."""
    done = subprocess.run([str(c) for c in command], cwd=cwd, env=env, capture_output=True, text=True)
    if done.returncode:
        print((done.stdout + done.stderr)[-4000:])
        stop(f"{what} failed.", hint)


def ensure_python(*, development: bool = False) -> None:
    """The application's packages; with `development` those that test and check it, too."""
    folder = ROOT / "requirements"
    value = digest([folder / "app.txt"]) + sys.version
    if not (PYTHON.exists() and _stamped("python", value)):
        step("installing Python packages into .venv (a minute or two)")
        run([sys.executable, "-m", "venv", VENV], "making the virtual environment", "Debian: apt-get install python3-venv")
        _install_packages(folder / "app.txt")
        _stamp("python", value)
    value += digest([folder / "dev.txt"])
    if development and not _stamped("python-development", value):
        step("installing packages that test and check")
        _install_packages(folder / "dev.txt")
        _stamp("python-development", value)


def _install_packages(lock: Path) -> None:
    """Install a lock file's packages: with uv, which is many times as fast, and with pip where uv cannot be had or fails.

    pip knows indexes and certificates of this machine that uv does not.
    """
    tools = ROOT / "requirements" / "tools.txt"
    uv = VENV / "bin" / "uv"
    if _succeeds(_pip(tools)) and _succeeds([uv, "pip", "install", "-q", "--no-config", "--python", PYTHON, "--require-hashes", "-r", lock]):
        return
    run(_pip(lock), "installing Python packages", "Check that the package index is reachable, then run this again.")


def _pip(lock: Path) -> list[str | Path]:
    # Not compiled: what is used is compiled when it is first used.
    return [PYTHON, "-m", "pip", "install", "-q", "--disable-pip-version-check", "--no-compile", "--require-hashes", "-r", lock]


def _succeeds(command: Sequence[str | Path]) -> bool:
    return subprocess.run([str(c) for c in command], cwd=ROOT, capture_output=True).returncode == 0


def kernels() -> None:
    """Compile the engine's kernels once, so that the first plan is fast."""
    value = digest([*(ROOT / "engine" / "mattone_engine" / "heat").glob("*.py"), ROOT / "requirements" / "app.txt"])
    if _stamped("kernels", value):
        return
    step("compiling the engine's kernels")
    run([PYTHON, "-m", "mattone_engine.warm"], "compiling the kernels", "This is a fault in Mattone; please report it.", env=environment())
    _stamp("kernels", value)


def ensure_web() -> None:
    lock = WEB / "package-lock.json"
    value = digest([lock, WEB / "package.json"])
    if not (WEB / "node_modules").exists() or not _stamped("web-packages", value):
        step("installing web packages (npm ci)")
        run(["npm", "ci", "--no-audit", "--no-fund"], "npm ci", "Check that the npm registry is reachable, then run this again.", cwd=WEB)
        _stamp("web-packages", value)


def web_sources() -> list[Path]:
    files = [WEB / "package-lock.json", WEB / "vite.config.ts", WEB / "tsconfig.json"]
    for folder in ("src", "public"):
        files += [path for path in (WEB / folder).rglob("*") if path.is_file()]
    return files


def bundle_page() -> None:
    value = digest(web_sources())
    if (WEB / "dist" / "manifest.json").exists() and _stamped("web-build", value):
        return
    step("building the page")
    run(["npx", "vite", "build"], "building the page", "Run `./mattone check` to see where.", cwd=WEB)
    _stamp("web-build", value)


def list_licences() -> None:
    """The licences of all packages, beside the page that shows them."""
    file = WEB / "dist" / "licences.json"
    value = digest([*web_sources(), ROOT / "requirements" / "app.txt", ROOT / "house" / "packages.py"])
    if file.exists() and _stamped("licences", value):
        return
    file.write_text(licences_json(packages()), encoding="utf-8")
    _stamp("licences", value)


def collect_static() -> None:
    """The page's files, compressed, where the server gives them out."""
    value = digest(web_sources()) + digest([ROOT / "requirements" / "app.txt"])
    if _stamped("static", value):
        return
    step("compressing the page's files")
    # The pages of the API library are not served.
    command: list[str | Path] = [PYTHON, "server/manage.py", "collectstatic", "--no-input", "--clear", "--ignore", "ninja"]
    run(command, "compressing the page's files", "This is a fault in Mattone; please report it.", env=environment())
    _stamp("static", value)


def environment(**more: str) -> dict[str, str]:
    """The environment every Python child runs in."""
    cache = os.environ.get("NUMBA_CACHE_DIR", str(LOCAL / "numba"))
    # Many threads each with a heap of its own would hold what they once needed for ever.
    heap = {"MALLOC_ARENA_MAX": "2", "MALLOC_TRIM_THRESHOLD_": str(1 << 17)}
    # Compiled modules are kept here, even where the machine keeps none: compiling all of them is two thirds of a start.
    compiled = {"PYTHONPYCACHEPREFIX": os.environ.get("PYTHONPYCACHEPREFIX", str(LOCAL / "compiled")), "PYTHONDONTWRITEBYTECODE": ""}
    base = heap | os.environ | compiled | {"PYTHONPATH": python_path(), "DJANGO_SETTINGS_MODULE": "config.settings", "NUMBA_CACHE_DIR": cache}
    return base | {"MATTONE_LOCAL": str(LOCAL), "PYTHONUNBUFFERED": "1"} | more
