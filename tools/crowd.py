"""Lets a class hand in at once while a teacher pages, and slow senders hold on, before the demo.

Run, after `make demo`: .venv/bin/python -m tools.crowd [students [slow senders]]
"""

import re
import socket
import sys
import time
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from http.cookiejar import CookieJar
from io import BytesIO
from urllib.parse import urlencode
from urllib.request import HTTPCookieProcessor, OpenerDirector, Request, build_opener

import numpy as np
from PIL import Image

from noema.stand_ins.saltmarsh import PASSWORD, TEACHERS
from tools.local import address

STUDENTS, SLOW, MEGABYTES = 30, 50, 4.0
_PAGES = ("/", "/review", "/photograph", "/return", "/plan")
_WAIT_S = 300.0


@dataclass(frozen=True, kw_only=True)
class Browser:
    """A teacher's browser."""

    opener: OpenerDirector
    token: str

    def get(self, path: str) -> str:
        """Give a page."""
        with self.opener.open(f"{address()}{path.lstrip('/')}", timeout=_WAIT_S) as answer:
            return str(answer.read().decode())

    def send(self, path: str, photo: bytes, name: str = "a.jpg") -> None:
        """Hand in one photograph as upload forms do."""
        edge = "noema-edge"
        named = f'Content-Disposition: form-data; name="photos"; filename="{name}"'
        head = f"--{edge}\r\n{named}\r\n\r\n"
        body = head.encode() + photo + f"\r\n--{edge}--\r\n".encode()
        headers = {
            "Content-Type": f"multipart/form-data; boundary={edge}",
            "X-CSRFToken": self.token,
            "Referer": address(),
        }
        wanted = Request(f"{address()}{path.lstrip('/')}", data=body, headers=headers)
        with self.opener.open(wanted, timeout=_WAIT_S) as answer:
            answer.read()


def logged_in() -> Browser:
    """Give the browser of the first teacher, logged in."""
    opener = build_opener(HTTPCookieProcessor(CookieJar()))
    browser = Browser(opener=opener, token="")
    form = {"email": TEACHERS[0][0], "password": PASSWORD, "csrf_token": _token(browser, "/log-in")}
    with opener.open(f"{address()}log-in", data=urlencode(form).encode(), timeout=60) as answer:
        answer.read()
    return Browser(opener=opener, token=_token(browser, "/photograph"))


def _token(browser: Browser, path: str) -> str:
    found = re.search(r'name="csrf_token" value="([^"]+)"', browser.get(path))
    assert found is not None
    return found.group(1)


def photo(seed: int) -> bytes:
    """Give a picture of about four megabytes that holds no sheet: it is kept all the same."""
    rng = np.random.default_rng(seed)
    rough = rng.integers(0, 255, (420, 560, 3), dtype=np.uint8)
    image = Image.fromarray(rough).resize((3600, 2700), Image.Resampling.BILINEAR)
    out = BytesIO()
    noise = rng.normal(0.0, 9.0, (2700, 3600, 3))
    noisy = np.clip(np.asarray(image) + noise, 0, 255).astype(np.uint8)
    Image.fromarray(noisy).save(out, "JPEG", quality=90)
    return out.getvalue()


def paged(browser: Browser, until: Callable[[], bool]) -> list[float]:
    """Let a teacher look at one page after another; gives the seconds each took."""
    took: list[float] = []
    while not until() or len(took) < len(_PAGES) * 4:
        begun = time.perf_counter()
        browser.get(_PAGES[len(took) % len(_PAGES)])
        took.append(time.perf_counter() - begun)
        time.sleep(0.05)
    return took


def _said(name: str, took: list[float]) -> None:
    p95 = float(np.percentile(took, 95))
    print(f"{name}: p95 {p95 / 0.5:.2f} of 500 ms, at most {max(took) / 2.0:.2f} of 2 s")


def crowd(students: int) -> None:
    """Let students hand in at once while a teacher pages."""
    browser = logged_in()
    photos = [photo(int(time.time()) % 10**6 * 100 + n) for n in range(students)]
    print(f"{students} photographs of {np.mean([len(p) for p in photos]) / 1e6:.1f} MB")
    _said("before", paged(browser, lambda: True))
    begun = time.perf_counter()
    with ThreadPoolExecutor(students) as pool:
        sent = [pool.submit(browser.send, "/photograph", one) for one in photos]
        took = paged(browser, lambda: all(one.done() for one in sent))
        for one in sent:
            one.result()
    kept = time.perf_counter() - begun
    _said("while they hand in", took)
    while "waits to be read" in browser.get("/photograph") and time.perf_counter() - begun < 600:
        time.sleep(1.0)
    read = time.perf_counter() - begun
    print(f"all kept: {kept / 60:.2f} of a minute; all read: {read / 60:.2f} of a minute")


def slow_senders(count: int) -> None:
    """Let slow senders hold on while a teacher pages."""
    browser = logged_in()
    alone = paged(browser, lambda: True)
    host, _, port = address().removeprefix("http://").rstrip("/").partition(":")
    head = b"POST /log-in HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 9000\r\n\r\nemail="
    held = [socket.create_connection((host, int(port))) for _ in range(count)]
    for one in held:
        one.sendall(head)
    beside = paged(browser, lambda: True)
    for one in held:
        one.close()
    ratio = float(np.percentile(beside, 95) / np.percentile(alone, 95))
    print(f"p95 with {count} slow senders / without: {ratio:.2f} (at most 1.25)")


def main() -> None:
    """Measure both."""
    students, slow = (*map(int, sys.argv[1:]), *(STUDENTS, SLOW)[len(sys.argv) - 1 :])
    slow_senders(slow)
    crowd(students)


if __name__ == "__main__":
    main()
