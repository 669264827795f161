"""Keeps what comes in as a log: readable by its owner alone, begun anew when it is large.

Run: … | .venv/bin/python -m tools.keep_log FILE
"""

import logging
import os
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
    """Write every line of the input until it ends."""
    log = OwnersLog(sys.argv[1], maxBytes=MOST_BYTES, backupCount=EARLIER, encoding="utf-8")
    for line in sys.stdin:
        log.emit(logging.makeLogRecord({"msg": line.rstrip("\n")}))


if __name__ == "__main__":
    main()
