"""Photographs are read side by side, but for one that ended a worker: it is read alone.

So it can take no neighbour along.
"""

from collections.abc import Iterator
from contextlib import contextmanager
from threading import Condition


class SideBySide:
    """Many at once, or one alone."""

    def __init__(self) -> None:
        self._changed = Condition()
        self._together, self._alone = 0, False

    @contextmanager
    def among(self, *, alone: bool) -> Iterator[None]:
        """Wait until this may run: beside others, or with nobody beside it."""
        with self._changed:
            self._changed.wait_for(lambda: not self._alone and not (alone and self._together))
            self._alone, self._together = alone, self._together + 1
        try:
            yield
        finally:
            with self._changed:
                self._together -= 1
                self._alone = False
                self._changed.notify_all()
