"""Waiting until something is up."""

import time
from collections.abc import Callable


def until(holds: Callable[[], bool], for_s: float = 60.0) -> None:
    """Wait until something holds; whatever it raises is believed once the time is over."""
    over = time.monotonic() + for_s
    while True:
        try:
            if holds():
                return
        except Exception:  # it isn't up yet, in whichever way
            if time.monotonic() > over:
                raise
        if time.monotonic() > over:
            raise TimeoutError("it didn't come up in time")
        time.sleep(0.2)
