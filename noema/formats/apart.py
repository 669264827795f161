"""Foreign bytes are opened in a process of their own, whose limits are really enforced.

A picture may say more of itself than a machine can hold, or be coded so that opening it takes
minutes. Whoever opens it gets so much memory and time, and is killed beyond, never waited for.
"""

import os
import resource
import subprocess
import sys
from dataclasses import dataclass
from threading import BoundedSemaphore

from noema.core.errors import BadPicture, TooManyTries
from noema.core.language import N_, gettext

_REFUSED = 3  # the status of a process that refuses in a sentence
_AT_ONCE, _PATIENCE_S = BoundedSemaphore(2), 60.0
_TOO_MUCH = N_("Opening it takes more than any photograph does: take it with the camera itself.")
_BUSY = N_("Too many pictures are being opened just now: try again in a minute.")


@dataclass(frozen=True, kw_only=True)
class Limits:
    """What a process may take."""

    memory_mb: int  # of addresses
    time_s: int  # of a processor, and half as much again on the clock


def opened_apart(module: str, data: bytes, limits: Limits) -> bytes:
    """Give what a module's `main` makes of some bytes; refuses what it refuses, or can't do."""
    if not _AT_ONCE.acquire(timeout=_PATIENCE_S):
        raise TooManyTries(gettext(_BUSY))
    try:
        done = subprocess.run(
            [sys.executable, "-m", module, str(limits.memory_mb), str(limits.time_s)],
            input=data,
            capture_output=True,
            timeout=1.5 * limits.time_s,
            check=False,
            env={**os.environ, "OMP_NUM_THREADS": "1"},
        )
    except subprocess.TimeoutExpired as wrong:
        raise BadPicture(gettext(_TOO_MUCH)) from wrong
    finally:
        _AT_ONCE.release()
    if done.returncode == _REFUSED:
        raise BadPicture(gettext(done.stderr.decode()))
    if done.returncode != 0:
        raise BadPicture(gettext(_TOO_MUCH))
    return done.stdout


def take_limited() -> bytes:
    """Within such a process: set its limits, then give the bytes it is to open."""
    memory, seconds = (int(text) for text in sys.argv[1:3])
    os.nice(5)  # pages go first
    resource.setrlimit(resource.RLIMIT_AS, (memory * 2**20, memory * 2**20))
    resource.setrlimit(resource.RLIMIT_CPU, (seconds, seconds))
    resource.setrlimit(resource.RLIMIT_CORE, (0, 0))
    return sys.stdin.buffer.read()


def refuse(sentence: str) -> None:
    """Within such a process: say why, and end."""
    sys.stderr.buffer.write(sentence.encode())
    sys.exit(_REFUSED)
