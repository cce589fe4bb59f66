"""`python -m config.serve`: Mattone under uvicorn, with every limit set that uvicorn has."""

from __future__ import annotations

import argparse
import os
import resource

import uvicorn

# The last stop: uvicorn refuses in plain text above it. Bounded connections, requests and streams stay far below.
MOST_CONNECTIONS = 4000
LONGEST_HEAD_BYTES = 32 * 1024
KEEP_ALIVE_S, GRACEFUL_S, BACKLOG = 5, 5, 2048


def allow_many_files() -> None:
    """A connection is an open file; the soft limit of many systems is lower than what we bound ourselves to."""
    soft, hard = resource.getrlimit(resource.RLIMIT_NOFILE)
    wanted = 2 * MOST_CONNECTIONS
    if soft != resource.RLIM_INFINITY and soft < wanted:
        resource.setrlimit(resource.RLIMIT_NOFILE, (wanted if hard == resource.RLIM_INFINITY else min(wanted, hard), hard))


def main() -> None:
    parser = argparse.ArgumentParser(prog="config.serve")
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--port", type=int, default=8000)
    parser.add_argument("--workers", type=int, default=1)
    parser.add_argument("--reload", nargs="*", metavar="FOLDER", help="start again when a file in these folders changes")
    chosen = parser.parse_args()
    allow_many_files()
    # Forwarded addresses are believed from the named proxies, from nobody else.
    proxies = os.environ.get("MATTONE_PROXIES", "").replace(" ", "")
    uvicorn.run(
        "config.asgi:application", host=chosen.host, port=chosen.port, log_level="warning", lifespan="on", ws="none",
        http="config.connection:BoundedProtocol", server_header=False, timeout_keep_alive=KEEP_ALIVE_S, backlog=BACKLOG,
        timeout_graceful_shutdown=GRACEFUL_S, limit_concurrency=MOST_CONNECTIONS, h11_max_incomplete_event_size=LONGEST_HEAD_BYTES,
        proxy_headers=bool(proxies), forwarded_allow_ips=proxies or None,
        workers=None if chosen.reload is not None else chosen.workers, reload=chosen.reload is not None, reload_dirs=chosen.reload or None,
    )  # fmt: skip


if __name__ == "__main__":
    main()
