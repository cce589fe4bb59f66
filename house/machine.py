"""What the machine must have: PostgreSQL, Chromium, Node."""

from __future__ import annotations

import glob
import os
import re
import shutil
import subprocess
from pathlib import Path

from house.say import step, stop


def postgres_bin() -> Path | None:
    """The folder with initdb and postgres of the newest installed server."""
    found = sorted(glob.glob("/usr/lib/postgresql/*/bin/initdb"), key=lambda p: int(re.sub(r"\D", "", p.split("/")[4]) or 0))
    if found:
        return Path(found[-1]).parent
    plain = shutil.which("initdb")
    return Path(plain).resolve().parent if plain else None


def missing_packages(*, browser: bool) -> list[str]:
    wanted = []
    if postgres_bin() is None:
        wanted.append("postgresql")
    # Chromium without a screen does a sixth less work for the same story than the whole browser told to show nothing.
    if browser and not Path("/usr/lib/chromium/chromium-headless-shell").exists():
        wanted.append("chromium-headless-shell")
    if browser and not Path("/usr/bin/chromedriver").exists():
        wanted.append("chromium-driver")
    return wanted


def ensure_packages(*, browser: bool) -> None:
    """Install missing Debian packages as root; anyone else is told the one command.

    As root the browser comes along at once, so that `test` needs nothing more than `demo`.
    """
    root = os.geteuid() == 0
    wanted = missing_packages(browser=browser or root)
    if not wanted:
        return
    command = "apt-get update && apt-get install -y --no-install-recommends " + " ".join(wanted)
    if not root:
        stop(f"these Debian packages are missing: {', '.join(wanted)}.", f"Run:  sudo sh -c '{command}'")
    if shutil.which("apt-get") is None:
        stop(f"{', '.join(wanted)} missing and no apt-get here.", "Install them with your system's package client.")
    step(f"installing {', '.join(wanted)} from Debian's packages")
    environment = os.environ | {"DEBIAN_FRONTEND": "noninteractive"}
    done = subprocess.run(["sh", "-c", command], env=environment, capture_output=True, text=True)
    if done.returncode or missing_packages(browser=browser):
        print((done.stdout + done.stderr)[-2000:])
        stop("the packages could not be installed.", f"Run by hand:  {command}")


def ensure_node() -> None:
    node, npm = shutil.which("node"), shutil.which("npm")
    if node is None or npm is None:
        stop("Node.js 20 or newer with npm is missing.", "Install it, then run this again.")
    version = subprocess.run([node, "--version"], capture_output=True, text=True).stdout
    if int(re.sub(r"^v(\d+).*", r"\1", version.strip()) or 0) < 20:
        stop(f"Node.js {version.strip()} is too old.", "Install version 20 or newer.")
