"""Runs a command and keeps what it says: readable by its owner alone, begun anew when it is large.

Run: .venv/bin/python -m tools.keep_log FILE COMMAND …
"""

import logging
import os
import signal
import subprocess
import sys
from io import TextIOWrapper
from logging.handlers import RotatingFileHandler

MOST_BYTES, EARLIER = 5_000_000, 4


class OwnersLog(RotatingFileHandler):
    """A rotated file that nobody else may read."""

    def _open(self) -> TextIOWrapper:
        os.close(os.open(self.baseFilename, os.O_CREAT | os.O_WRONLY, 0o600))
        os.chmod(self.baseFilename, 0o600)
        return super()._open()


def main() -> None:
    """Write every line until the command ends; who is told to end goes after it."""
    for told in (signal.SIGTERM, signal.SIGINT):
        signal.signal(told, lambda *_: None)
    log = OwnersLog(sys.argv[1], maxBytes=MOST_BYTES, backupCount=EARLIER, encoding="utf-8")
    with subprocess.Popen(
        sys.argv[2:],
        stdin=subprocess.DEVNULL,
        stdout=subprocess.PIPE,
        stderr=subprocess.STDOUT,
        text=True,
        errors="replace",
    ) as command:
        for line in command.stdout or ():
            log.emit(logging.makeLogRecord({"msg": line.rstrip("\n")}))
    sys.exit(command.returncode)


if __name__ == "__main__":
    main()
