"""Looks at what a camera sees, in a process of their own, so that no page waits for them."""

from collections import OrderedDict
from collections.abc import Callable
from concurrent.futures import Future, ProcessPoolExecutor
from concurrent.futures.process import BrokenProcessPool
from multiprocessing import get_context
from secrets import token_urlsafe
from threading import Lock

from noema.core.errors import BadPicture, NotFound
from noema.core.language import gettext
from noema.core.photo.aiming import Glance, glance
from noema.formats.photo_file import open_photo

_MOST = 64  # looks that wait or whose answers lie ready; the oldest go first


class Looks:
    """Looks under way and what the last ones saw, each under a name that can't be guessed.

    They live in this process's memory: a look that is lost is followed by the next one.
    """

    def __init__(self, look: Callable[[bytes], Glance] | None = None) -> None:
        self._look = look or _look
        self._pool: ProcessPoolExecutor | None = None  # started by the first look
        self._under_way: OrderedDict[str, Future[Glance]] = OrderedDict()
        self._lock = Lock()

    def begin(self, data: bytes) -> str:
        """Have a picture file looked at; gives the look's name."""
        name = token_urlsafe(16)
        with self._lock:
            self._under_way[name] = self._submit(data)
            while len(self._under_way) > _MOST:
                self._under_way.popitem(last=False)[1].cancel()
        return name

    def seen(self, name: str) -> Glance | None:
        """Give what was seen; None while it is being looked at.

        Raises BadPicture where the picture can't be opened, NotFound where no such look is known.
        """
        with self._lock:
            future = self._under_way.get(name)
        if future is None:
            raise NotFound(gettext("This look is gone: the camera's page sends the next one."))
        if not future.done():
            return None
        try:
            return future.result()
        except BrokenProcessPool as wrong:
            raise BadPicture(gettext("The picture can't be opened: take it again.")) from wrong

    def _submit(self, data: bytes) -> Future[Glance]:
        try:
            return self._running().submit(self._look, data)
        except BrokenProcessPool:  # by an earlier picture
            self._pool = None
            return self._running().submit(self._look, data)

    def _running(self) -> ProcessPoolExecutor:
        if self._pool is None:
            self._pool = ProcessPoolExecutor(max_workers=1, mp_context=get_context("spawn"))
        return self._pool


def _look(data: bytes) -> Glance:
    return glance(open_photo(data).rgb)
