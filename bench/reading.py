"""How fast and how small reading is, as ratios; and whether workers agree to the last digit."""

import json
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from functools import partial
from pathlib import Path
from statistics import median

import cv2
import numpy as np

from noema.core.photo.read import read_photo
from noema.core.photo.reading import Reading
from noema.core.photo.together import read_together
from noema.core.sheet.layout import Layout
from noema.formats.layout_json import layout_to_json
from noema.formats.photo_file import check_photo, open_photo
from noema.formats.reading_json import reading_to_json
from noema.stand_ins.processes import own_processes
from noema.stand_ins.studio import take_picture
from tools.photographs import any_sheet_of, hand_of, sheet_of

_BATCH = 40
_LARGE = 8  # the seed of a sheet with many cells
_READ_ONE = (
    "import sys; from noema.cli.command import main; "
    "sys.argv = ['noema', 'read', *sys.argv[1:]]\n"
    "try: main()\n"
    "finally: print(open('/proc/self/status').read().split('VmHWM:')[1].split()[0], "
    "file=sys.stderr)"
)
"""The peak is the system's of this process alone: a child's `getrusage` counts its parent's too."""


def times(work: Callable[[], object], repeats: int) -> float:
    """Give the median time of some work, in seconds, after one run to warm up."""
    work()
    taken = []
    for _ in range(repeats):
        start = time.perf_counter()
        work()
        taken.append(time.perf_counter() - start)
    return median(taken)


def bench_reading() -> None:
    """Print all figures of reading."""
    layout, pdf = sheet_of(4)
    jpeg = take_picture(layout, pdf, seed=4, preset="class").jpeg
    encoded = np.frombuffer(jpeg, dtype=np.uint8)
    bare = times(lambda: cv2.imdecode(encoded, cv2.IMREAD_COLOR), 20)
    megapixels = check_photo(jpeg).megapixels
    whole = times(lambda: read_photo(open_photo(jpeg), layout), 20)
    print(
        f"reading a {megapixels:.0f}-megapixel JPEG / decoding it: {whole / bare:.2f} (at most 3)"
    )
    _many_cells()
    _together(layout, pdf)
    _in_a_process(layout, jpeg)
    _batch(layout, pdf)


def _many_cells() -> None:
    layout, pdf = any_sheet_of(_LARGE)
    jpeg = take_picture(layout, pdf, seed=4, preset="class", hand=hand_of(_LARGE)).jpeg
    encoded = np.frombuffer(jpeg, dtype=np.uint8)
    bare = times(lambda: cv2.imdecode(encoded, cv2.IMREAD_COLOR), 10)
    whole = times(lambda: read_photo(open_photo(jpeg), layout), 10)
    print(f"the same of a sheet of {len(layout.cells)} cells: {whole / bare:.2f} (at most 3)")


def _together(layout: Layout, pdf: bytes) -> None:
    """Hold three photographs read as one against the sum of each by itself."""
    photos = [
        take_picture(layout, pdf, seed=4, preset="class", size_px=(2016, 1512), again=n).jpeg
        for n in range(3)
    ]

    def read(jpeg: bytes) -> Reading:
        return read_photo(open_photo(jpeg), layout).reading

    alone = sum(times(partial(read, jpeg), 10) for jpeg in photos)
    as_one = times(lambda: read_together([read(jpeg) for jpeg in photos]), 10)
    print(f"three photographs together / the sum of them: {as_one / alone:.2f} (at most 1.1)")


def _in_a_process(layout: Layout, jpeg: bytes) -> None:
    with tempfile.TemporaryDirectory() as folder:
        place, photo = Path(folder) / "layout.json", Path(folder) / "photo.jpg"
        place.write_text(json.dumps(layout_to_json(layout)), encoding="utf-8")
        photo.write_bytes(jpeg)
        call = [sys.executable, "-c", _READ_ONE, str(photo), "--layout", str(place)]
        done = subprocess.run(call, capture_output=True, text=True, check=True)
        start = times(lambda: subprocess.run([*call[:3], "--help"], capture_output=True), 5)
    megabytes = int(done.stderr.split()[-1]) / 1024
    print(f"memory of noema read / 400 MB: {megabytes / 400:.2f} (at most 1)")
    print(f"start of noema read / 1 s: {start:.2f} (at most 1)")


def _batch(layout: Layout, pdf: bytes) -> None:
    photos = [
        take_picture(layout, pdf, seed=n, preset="easy", size_px=(2016, 1512)).jpeg
        for n in range(_BATCH)
    ]
    read = partial(_read_one, layout)
    alone, by_one = _timed(read, photos, 1)
    by_two, both = _timed(read, photos, 2)[0], _timed(read, photos, 4)[1]
    print(
        f"{_BATCH} photographs, one worker / two on two cores: {alone / by_two:.2f} (at least 1.5)"
    )
    print(f"one worker and four give the same to the last digit: {by_one == both}")


def _timed(
    read: Callable[[bytes], str], photos: list[bytes], workers: int
) -> tuple[float, list[str]]:
    with own_processes(workers) as pool:
        list(pool.map(read, photos[:workers]))
        start = time.perf_counter()
        readings = list(pool.map(read, photos))
        return time.perf_counter() - start, readings


def _read_one(layout: Layout, jpeg: bytes) -> str:
    cv2.setNumThreads(1)
    return str(reading_to_json(read_photo(open_photo(jpeg), layout).reading, None))
