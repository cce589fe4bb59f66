"""Serving the demo: the server on a port that is free, the stand-in thermometer, the night's dump."""

from __future__ import annotations

import contextlib
import subprocess
import tomllib
from datetime import datetime

from house import alone, backups
from house.cluster import Cluster
from house.places import ROOT
from house.ports import free_port, port_taken
from house.restore import dump
from house.say import step, stop
from house.serving import Family, answers, evening_command, keep_serving, server_command, stand_in_command, web_port


def demo_cook() -> tuple[str, str]:
    data = tomllib.loads((ROOT / "server" / "demo" / "kitchen.toml").read_text())
    return data["email"], data["password"]


# A port may be taken between the look at it and the server's own attempt.
PORT_TRIES = 3


def started_server(children: Family, env: dict[str, str], port: int) -> tuple[subprocess.Popen[bytes], int]:
    """A server that answers, and the port it is on: this one, or another where somebody else took it meanwhile."""
    for _ in range(PORT_TRIES):
        server = children.add(server_command(port), cwd=ROOT / "server", env=env)
        if answers(f"http://127.0.0.1:{port}/", server):
            return server, port
        if server.poll() is None or not port_taken(port):
            break
        step(f"port {port} was taken by another program")
        children.forget(server)
        port = free_port()
    children.forget(server)
    return stop("the server stopped before it answered.", "What it said is above.")


def serve_demo(cluster: Cluster, env: dict[str, str], children: Family, served: alone.Serving, speed: str | None) -> int:
    """Serve until it ends; its exit code. The address is printed once."""
    port, announced, instrument = web_port(), False, None

    def start() -> subprocess.Popen[bytes]:
        nonlocal port, announced, instrument
        server, port = started_server(children, env, port)
        served.at(f"http://127.0.0.1:{port}/")
        if instrument is None or instrument.poll() is not None:
            instrument = children.add(stand_in_command(port), env=env)
        if not announced:
            email, password = demo_cook()
            print(
                f"\nMattone is at  http://127.0.0.1:{port}/\n  sign in as    {email}\n  password      {password}\n  Ctrl-C stops it; the data stays.\n",
                flush=True,
            )
            if speed is not None:
                children.add(evening_command(port, speed), env=env)
        announced = True
        return server

    def mend() -> bool:
        """Start the database again when it does not answer; the server is started anew when it is reached otherwise now."""
        if cluster.running():
            nightly_when_due(cluster)
            return False
        step("the database does not answer; starting it again")
        cluster.start()
        reached = cluster.client_environment()
        moved = any(env[name] != value for name, value in reached.items())
        env.update(reached)
        return moved

    return keep_serving(start, mend)


def nightly_when_due(cluster: Cluster) -> None:
    """The night's dump. One that fails is said, and does not end what is served."""
    if backups.is_due(datetime.now()):
        with contextlib.suppress(SystemExit):
            backups.make_nightly(datetime.now(), lambda file: dump(cluster, file))
