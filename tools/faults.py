"""Breaks one part of the running demo after another while photographs are handed in; counts losses.

Run, after `make demo`: .venv/bin/python -m tools.faults [minutes]
"""

import os
import signal
import subprocess
import sys
import time
from collections import Counter
from collections.abc import Callable, Sequence
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path
from urllib.error import HTTPError

from sqlalchemy import text

from noema.devices.file_store import LocalFiles
from noema.store.engine import open_engine
from tools.cluster import Cluster
from tools.crowd import Browser, logged_in, photo
from tools.local import LOCAL

MINUTES = 30.0
_BETWEEN_S, _HANDS = 12.0, 4
_SETTLES_S = 300.0
_FIRST_SEED = 7_000_000


def _killed(pattern: str) -> Callable[[], None]:
    """Give a fault: every process whose command names something is killed at once."""

    def kill() -> None:
        found = subprocess.run(
            ["pgrep", "-f", pattern], capture_output=True, text=True, check=False
        )
        for pid in found.stdout.split():
            if int(pid) != os.getpid():
                os.kill(int(pid), signal.SIGKILL)

    return kill


def _database_restarted() -> None:
    cluster = Cluster(LOCAL / "postgres")
    cluster.stop()
    time.sleep(2.0)
    cluster.start()


def _store_gone() -> None:
    """Take the file store away for some seconds."""
    away = LOCAL / "files-away"
    (LOCAL / "files").rename(away)
    (LOCAL / "files").touch()  # a file where a folder was: nothing can be kept or read
    time.sleep(5.0)
    (LOCAL / "files").unlink()
    away.rename(LOCAL / "files")


def _mounted(*mounts: Sequence[str]) -> Callable[[], None]:
    """Give a fault: something else lies over the file store for some seconds. Needs root."""

    def cover() -> None:
        for words in mounts:
            subprocess.run(["mount", *words], check=True)
        time.sleep(5.0)
        for folder in {words[-1]: None for words in reversed(mounts)}:
            subprocess.run(["umount", "-l", folder], check=True)

    return cover


_STORE, _SMALL = str(LOCAL / "files"), str(LOCAL / "small")
_OVER = f"lowerdir={_STORE},upperdir={_SMALL}/upper,workdir={_SMALL}/work"


def _store_full() -> None:
    """Let the store have no room for another photograph; what is there can be read."""
    Path(_SMALL).mkdir(exist_ok=True)
    subprocess.run(["mount", "-t", "tmpfs", "-o", "size=16k", "none", _SMALL], check=True)
    for name in ("upper", "work"):
        (Path(_SMALL) / name).mkdir()
    _mounted(["-t", "overlay", "overlay", "-o", _OVER, _STORE])()
    subprocess.run(["umount", "-l", _SMALL], check=True)


FAULTS: dict[str, Callable[[], None]] = {
    "worker killed": _killed("^[^ ]*python[^ ]* -m noema.assemble"),
    "pages killed": _killed("^[^ ]*python[^ ]* [^ ]*gunicorn --bind"),
    "database restarted": _database_restarted,
    "store away": _store_gone,
}
AS_ROOT: dict[str, Callable[[], None]] = {
    "store full": _store_full,
    "store read-only": _mounted(["--bind", _STORE, _STORE], ["-o", "remount,bind,ro", _STORE]),
}
if os.geteuid() == 0:
    FAULTS |= AS_ROOT


def handed_in(browser: Browser, seed: int, said: Counter[str]) -> None:
    """Hand one photograph in until it is taken; what the sender saw is counted."""
    data = photo(seed)
    while True:
        try:
            browser.send("/photograph", data, f"fault-{seed}.jpg")
        except HTTPError as wrong:
            said[f"{wrong.code}"] += 1
        except OSError:
            said["no answer"] += 1
        else:
            said["taken"] += 1
            return
        time.sleep(2.0)


def main() -> None:
    """Break, hand in, wait until all has settled, then count."""
    minutes = float(sys.argv[1]) if sys.argv[1:] else MINUTES
    browser, said = logged_in(), Counter[str]()
    first = _FIRST_SEED + int(time.time()) % 10**6 * 10_000
    until, done = time.monotonic() + 60.0 * minutes, 0
    with ThreadPoolExecutor(_HANDS + 1) as pool:
        breaking = pool.submit(_break, until)
        while time.monotonic() < until:
            seeds = range(first + done, first + done + _HANDS)
            list(pool.map(lambda seed: handed_in(browser, seed, said), seeds))
            done += _HANDS
        broken = breaking.result()
    print(f"{minutes:g} minutes; faults: {dict(broken)}; senders saw: {dict(said)}")
    _count(first, done)


def _break(until: float) -> Counter[str]:
    broken = Counter[str]()
    while time.monotonic() < until - _BETWEEN_S:
        name = list(FAULTS)[sum(broken.values()) % len(FAULTS)]
        FAULTS[name]()
        broken[name] += 1
        time.sleep(_BETWEEN_S)
    return broken


def _count(first: int, done: int) -> None:
    """Say what was lost, doubled or is stuck."""
    engine = open_engine(Cluster(LOCAL / "postgres").database("noema"))
    names = [f"fault-{seed}.jpg" for seed in range(first, first + done)]
    question = text(
        "SELECT original_name, state, sha256 FROM photograph WHERE original_name = ANY(:names)"
    )
    settled = time.monotonic() + _SETTLES_S
    while True:
        with engine.connect() as connection:
            rows = connection.execute(question, {"names": names}).all()
        stuck = sum(row.state == "reading" for row in rows)
        if not stuck or time.monotonic() > settled:
            break
        time.sleep(2.0)
    files = LocalFiles(LOCAL / "files")
    times = Counter(row.original_name for row in rows)
    lost = sum(name not in times for name in names) + sum(not files.has(r.sha256) for r in rows)
    doubled = sum(count > 1 for count in times.values())
    print(f"of {done} photographs taken: {lost} lost, {doubled} doubled, {stuck} stuck")


if __name__ == "__main__":
    main()
