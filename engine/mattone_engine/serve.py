"""`python -m mattone_engine.serve`: the engine as a process of its own, for a server that must stay light.

One job at a time. A request is a line `NAME LENGTH` and so many bytes of JSON; the answer a line
`ok LENGTH`, `input LENGTH`, `abandoned 0` or `fault LENGTH` and so many bytes (for `input` the path,
a newline, the message). The line `abandon` stops the job under way between two bakes. The process
ends when its input does, so it never outlives its server.
"""

from __future__ import annotations

import os
import queue
import sys
import threading
import traceback
from typing import BinaryIO

from mattone_engine.bake.parallel import AbandonedError, abandoned_when
from mattone_engine.commands import COMMANDS, run
from mattone_engine.errors import InputError
from mattone_engine.warm import warm

# Behind the server's own threads: whoever only looks something up does not wait for a bake.
NICE = 10
# `--at-hand`: for who stands at a hot oven. Its few jobs do not wait for plans.
AT_HAND, NICE_AT_HAND = "--at-hand", 0


class Jobs:
    """Requests as they are read; `abandon` counts for the one under way."""

    def __init__(self, requests: BinaryIO) -> None:
        self.requests = requests
        self.waiting: queue.Queue[tuple[str, str] | None] = queue.Queue()
        self.abandon = threading.Event()

    def read(self) -> None:
        """Take jobs in from the pipe until it ends; a word to abandon stops the one under way."""
        while line := self.requests.readline():
            word, _, length = line.decode().strip().partition(" ")
            if word == "abandon":
                self.abandon.set()
            else:
                self.abandon.clear()
                self.waiting.put((word, self.requests.read(int(length)).decode()))
        self.abandon.set()
        self.waiting.put(None)


def worked_out(name: str, text: str, abandon: threading.Event) -> tuple[str, str]:
    """The word and the body of an answer."""
    try:
        with abandoned_when(abandon.is_set):
            return "ok", run(name, text)
    except InputError as error:
        return "input", f"{error.path}\n{error.message}"
    except AbandonedError:
        return "abandoned", ""
    except Exception:
        return "fault", traceback.format_exc()


def serve(requests: BinaryIO, answers: BinaryIO) -> None:
    """Answer until the input ends."""
    jobs = Jobs(requests)
    threading.Thread(target=jobs.read, daemon=True).start()
    while (job := jobs.waiting.get()) is not None:
        word, body = worked_out(*job, jobs.abandon) if job[0] in COMMANDS else ("input", f"\nThere is no command {job[0]}.")
        data = body.encode()
        answers.write(f"{word} {len(data)}\n".encode() + data)
        answers.flush()


if __name__ == "__main__":
    os.nice(NICE_AT_HAND if AT_HAND in sys.argv[1:] else NICE)
    answers = os.fdopen(os.dup(1), "wb")
    # What anything prints must not stand among the answers.
    os.dup2(2, 1)
    warm()
    serve(sys.stdin.buffer, answers)
