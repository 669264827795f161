"""Files made to take a machine's memory or time are refused in a sentence, soon, and kept apart."""

import time
from io import BytesIO

import numpy as np
import pytest
from PIL import Image

from noema.core.errors import BadPicture
from noema.formats.apart import Limits, opened_apart
from noema.formats.photo_file import check_photo
from noema.formats.scan import pages_of_scan

SOON_S = 60.0  # a process has at most 45 on the clock; other tests run beside


def webp(width, height):
    out = BytesIO()
    Image.new("RGB", (width, height), (200, 30, 40)).save(out, "WEBP", lossless=True)
    return out.getvalue()


def many_scans():
    """A progressive JPEG whose last scan comes again and again."""
    out = BytesIO()
    noise = np.random.default_rng(1).integers(0, 255, (600, 600, 3), dtype=np.uint8)
    Image.fromarray(noise).save(out, "JPEG", progressive=True, quality=20)
    data = out.getvalue()
    last = data.rindex(b"\xff\xda")
    return data[:-2] + data[last:-2] * 300 + data[-2:]


def nested_pdf():
    """A small PDF whose drawing draws another ten times, that one the next, and so on."""
    depth = 12
    objects = [
        b"<< /Type /Catalog /Pages 2 0 R >>",
        b"<< /Type /Pages /Kids [3 0 R] /Count 1 >>",
        b"<< /Type /Page /Parent 2 0 R /MediaBox [0 0 600 800] /Contents 4 0 R "
        b"/Resources << /XObject << /X 5 0 R >> >> >>",
        _stream(b"<<", b"/X Do " * 10),
    ]
    for n in range(depth):
        inner = f"/Resources << /XObject << /X {6 + n} 0 R >> >>".encode() if n < depth - 1 else b""
        body = b"/X Do " * 10 if n < depth - 1 else b"0 0 m 600 800 l S "
        head = b"<< /Type /XObject /Subtype /Form /BBox [0 0 600 800] " + inner
        objects.append(_stream(head, body))
    out = b"%PDF-1.7\n"
    for n, body in enumerate(objects, start=1):
        out += f"{n} 0 obj\n".encode() + body + b"\nendobj\n"
    return out + b"trailer << /Root 1 0 R >>\n%%EOF"


def _stream(head, body):
    return head + f" /Length {len(body)} >>\nstream\n".encode() + body + b"\nendstream"


def soon_refused(opens, data):
    begun = time.monotonic()
    with pytest.raises(BadPicture) as refused:
        opens(data)
    assert str(refused.value).endswith(".")
    assert time.monotonic() - begun < SOON_S


def test_a_picture_of_too_many_pixels_is_refused():
    data = webp(16383, 3700)
    assert len(data) < 200_000
    soon_refused(check_photo, data)


def test_a_picture_coded_in_hundreds_of_passes_is_refused():
    soon_refused(check_photo, many_scans())


def test_a_moving_picture_is_refused():
    out = BytesIO()
    frames = [Image.new("RGB", (500, 500), (90 * n, 0, 0)) for n in range(3)]
    frames[0].save(out, "WEBP", save_all=True, append_images=frames[1:])
    soon_refused(check_photo, out.getvalue())


def test_a_drawing_without_end_is_stopped():
    soon_refused(pages_of_scan, nested_pdf())


def test_what_takes_more_memory_than_it_is_given_is_refused():
    soon_refused(
        lambda data: opened_apart(
            "noema.formats.whole_photo", data, Limits(memory_mb=220, time_s=10)
        ),
        webp(7000, 7000),
    )


def test_a_large_photograph_is_still_one():
    out = BytesIO()
    Image.new("RGB", (7700, 7700), (90, 90, 90)).save(out, "JPEG")
    assert check_photo(out.getvalue()).megapixels == pytest.approx(59.3, abs=0.1)
