"""Opens and reads thousands of damaged and strange files: each is refused in a sentence or read.

Run: .venv/bin/python -m tools.fuzz_photos [how many [first seed]]
Prints how many were read and refused, the slowest, and the most memory a process held.
"""

import resource
import sys
import time
from collections import Counter
from functools import cache
from io import BytesIO

import numpy as np
from numpy.random import Generator, default_rng
from PIL import Image

from noema.core.errors import BadFile
from noema.core.photo.read import read_photo
from noema.formats.photo_file import check_photo, open_photo
from noema.formats.scan import is_scan, pages_of_scan
from noema.stand_ins.colour_file import Space, icc_profile
from noema.stand_ins.processes import own_processes
from noema.stand_ins.studio import take_picture
from tools.photographs import sheet_of

LAYOUT, PDF = sheet_of(2)
_SIZE = (900, 675)


def strange_file(seed: int) -> bytes:
    """Give a file nobody should send: a good one cut, flipped, spliced, or of an odd sort."""
    rng = default_rng(seed)
    good = list(good_files().values())
    data = bytearray(good[int(rng.integers(len(good)))])
    return bytes(_WAYS[int(rng.integers(len(_WAYS)))](data, rng))


@cache
def good_files() -> dict[str, bytes]:
    """Give one file of every sort there is."""
    jpeg = take_picture(LAYOUT, PDF, seed=1, preset="easy", size_px=_SIZE).jpeg
    image = Image.open(BytesIO(jpeg))
    many = [image, image.rotate(90, expand=True).resize(image.size)]
    icc = icc_profile(Space.DISPLAY_P3)
    deep = Image.fromarray(np.asarray(image.convert("L"), dtype=np.uint16) * 257)
    return {
        "jpeg": jpeg,
        "progressive": _as(image, "JPEG", progressive=True, icc_profile=icc),
        "cmyk": _as(image.convert("CMYK"), "JPEG"),
        "grey": _as(image.convert("L"), "JPEG"),
        "png": _as(image, "PNG", icc_profile=icc),
        "palette": _as(image.convert("P"), "PNG"),
        "see-through": _as(image.convert("RGBA"), "PNG"),
        "16 bits": _as(deep, "PNG"),
        "moving png": _as(image, "PNG", save_all=True, append_images=many[1:]),
        "webp": _as(image, "WEBP"),
        "moving webp": _as(image, "WEBP", save_all=True, append_images=many[1:]),
        "heic": _as(image, "HEIF"),
        "one pixel": _as(Image.new("RGB", (1, 1)), "PNG"),
        "gif": _as(image, "GIF"),
        "tiff": _as(image, "TIFF"),
        "pdf": PDF,
    }


def _as(image: Image.Image, kind: str, **more: object) -> bytes:
    out = BytesIO()
    image.save(out, kind, **more)
    return out.getvalue()


def _cut(data: bytearray, rng: Generator) -> bytearray:
    return data[: int(rng.integers(len(data) + 1))]


def _flipped(data: bytearray, rng: Generator) -> bytearray:
    for place in rng.integers(0, len(data), int(rng.integers(1, 40))):
        data[int(place)] ^= 1 << int(rng.integers(8))
    return data


def _flipped_head(data: bytearray, rng: Generator) -> bytearray:
    for place in rng.integers(0, min(len(data), 700), int(rng.integers(1, 12))):
        data[int(place)] = int(rng.integers(256))
    return data


def _spliced(data: bytearray, rng: Generator) -> bytearray:
    first, second = sorted(int(n) for n in rng.integers(0, len(data), 2))
    return data[:first] + rng.bytes(int(rng.integers(0, 300))) + data[second:]


def _disguised(data: bytearray, rng: Generator) -> bytearray:
    head = (
        b"\x89PNG\r\n\x1a\n",
        b"\xff\xd8\xff\xe0",
        b"RIFF\0\0\0\0WEBP",
        b"%PDF-1.7\n",
        b"GIF89a",
    )
    return bytearray(head[int(rng.integers(len(head)))]) + data[int(rng.integers(0, 40)) :]


def _whole(data: bytearray, rng: Generator) -> bytearray:
    return data


_WAYS = (_cut, _flipped, _flipped, _flipped_head, _flipped_head, _spliced, _disguised, _whole)


def outcome(seed: int) -> tuple[str, float, int]:
    """Say what became of one file, in how many seconds, and the process's memory in MB."""
    data, start = strange_file(seed), time.perf_counter()
    try:
        pages = pages_of_scan(data) if is_scan(data) else (data,)
        for page in pages:
            check_photo(page)
            found = read_photo(open_photo(page), LAYOUT).reading.found
        word = "read" if found else "no sheet found"
    except BadFile as refused:
        word = "refused" if str(refused).endswith(".") else f"badly said: {refused}"
    most = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss // 1024
    return word, time.perf_counter() - start, most


def main() -> None:
    how_many, first = (*(int(n) for n in sys.argv[1:]), *(1000, 0)[len(sys.argv) - 1 :])
    with own_processes() as pool:
        seen = list(pool.map(outcome, range(first, first + how_many), chunksize=20))
    print(dict(Counter(word for word, _, _ in seen)))
    print(f"slowest {max(s for _, s, _ in seen):.1f} s, most memory {max(m for *_, m in seen)} MB")


if __name__ == "__main__":
    main()
