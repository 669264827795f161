"""Looks at what a camera sees, in a process of their own, so that no page waits for them."""

import logging
from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from datetime import UTC, datetime, timedelta
from functools import partial
from multiprocessing import get_context
from secrets import token_urlsafe
from threading import Lock
from typing import Any, Protocol

from noema.core.errors import BadPicture, NotFound
from noema.core.language import gettext
from noema.core.photo.aiming import Glance, glance
from noema.formats.glance_json import glance_from_json, glance_to_json
from noema.formats.photo_file import open_photo

_LOG = logging.getLogger(__name__)
_MOST = 64  # looks that wait in this process; the oldest go first
_LONGEST = timedelta(seconds=30)  # after which the process that looked must be gone


class LookFound(Protocol):
    """A look under way, or what it saw."""

    @property
    def made_at(self) -> datetime:
        """Say when it began."""

    @property
    def is_over(self) -> bool:
        """Say whether it is over."""

    @property
    def saw(self) -> dict[str, Any] | None:
        """Give what it saw; None where the picture couldn't be opened."""


class LooksKept(Protocol):
    """Where looks are kept under their names, for every process that may be asked."""

    def begin(self, name: str) -> None:
        """Note that a look is under way."""

    def end(self, name: str, saw: dict[str, Any] | None) -> None:
        """Note what it saw; None where the picture couldn't be opened."""

    def find(self, name: str) -> LookFound | None:
        """Give a look; None where no such look is known."""

    def drop(self, name: str) -> None:
        """Forget one."""


class Looks:
    """Looks under way and what the last ones saw, each under a name that can't be guessed.

    A look that is lost is followed by the next one.
    """

    def __init__(
        self, kept: LooksKept, look: Callable[[bytes], dict[str, Any]] | None = None
    ) -> None:
        self._kept, self._look = kept, look or _look
        self._pool: ProcessPoolExecutor | None = None  # started by the first look
        self._under_way: OrderedDict[str, Future[dict[str, Any]]] = OrderedDict()
        self._lock = Lock()

    def begin(self, data: bytes) -> str:
        """Have a picture file looked at; gives the look's name."""
        name = token_urlsafe(16)
        self._kept.begin(name)
        with self._lock:
            future = self._under_way[name] = self._submit(data)
            too_many = [
                self._under_way.popitem(last=False)[1] for _ in range(len(self._under_way) - _MOST)
            ]
        for late in too_many:
            late.cancel()
        future.add_done_callback(partial(self._end, name))
        return name

    def seen(self, name: str) -> Glance | None:
        """Give what was seen; None while it is being looked at.

        Raises BadPicture where the picture can't be opened, NotFound where no such look is known.
        """
        found = self._kept.find(name)
        if found is None or (not found.is_over and datetime.now(UTC) - found.made_at > _LONGEST):
            raise NotFound(gettext("This look is gone: the camera's page sends the next one."))
        if not found.is_over:
            return None
        if found.saw is None:
            raise BadPicture(gettext("The picture can't be opened: take it again."))
        return glance_from_json(found.saw)

    def _end(self, name: str, future: "Future[dict[str, Any]]") -> None:
        with self._lock:
            self._under_way.pop(name, None)
        if future.cancelled():
            self._kept.drop(name)
            return
        try:
            saw = future.result()
        except (BadPicture, BrokenProcessPool) as wrong:
            _LOG.info("a picture couldn't be looked at: %s", type(wrong).__name__)
            self._kept.end(name, None)
            return
        self._kept.end(name, saw)

    def _submit(self, data: bytes) -> "Future[dict[str, Any]]":
        try:
            return self._running().submit(self._look, data)
        except BrokenProcessPool:  # by an earlier picture
            self._pool = None
            return self._running().submit(self._look, data)

    def _running(self) -> ProcessPoolExecutor:
        if self._pool is None:
            self._pool = ProcessPoolExecutor(max_workers=1, mp_context=get_context("spawn"))
        return self._pool


def _look(data: bytes) -> dict[str, Any]:
    return glance_to_json(glance(open_photo(data).rgb))
