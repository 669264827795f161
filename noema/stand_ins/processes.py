"""Processes of their own for painting and photographing many sheets."""

from concurrent.futures import ProcessPoolExecutor
from multiprocessing import get_context


def own_processes(most: int | None = None) -> ProcessPoolExecutor:
    """Give a pool whose processes start afresh.

    Threads of the colour management library don't survive a fork, and a forked child would wait
    for them without end.
    """
    return ProcessPoolExecutor(max_workers=most, mp_context=get_context("forkserver"))
