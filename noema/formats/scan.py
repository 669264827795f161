"""Scans of several sheets in one PDF: every page becomes a photograph of its own.

Pages are drawn in a process that ends afterwards: python -m noema.formats.scan MEMORY_MB SECONDS.
"""

import sys
from collections.abc import Iterator
from io import BytesIO

import pypdfium2

from noema.core.errors import BadPicture
from noema.core.language import N_, gettext
from noema.formats.apart import Limits, opened_apart, refuse, take_limited

MOST_PAGES = 40
_LONG_SIDE_PX = 2600  # of a page: more than the reader uses
_MOST_SCALE = 8.0  # pixels a point: a stamp-sized page isn't blown up without end
_LIMITS, _SIZE = Limits(memory_mb=800, time_s=30), 8
_DAMAGED = N_("The PDF can't be opened: scan the sheets again, or send them as pictures.")


def is_scan(data: bytes) -> bool:
    """Whether bytes are a PDF."""
    return data[:1024].lstrip().startswith(b"%PDF")


def pages_of_scan(data: bytes) -> tuple[bytes, ...]:
    """Give each page of a PDF as a JPEG; refuse what can't be opened or has too many pages."""
    drawn = opened_apart(__name__, data, _LIMITS)
    pages, at = [], 0
    while at < len(drawn):
        size = int.from_bytes(drawn[at : at + _SIZE], "big")
        pages.append(drawn[at + _SIZE : at + _SIZE + size])
        at += _SIZE + size
    return tuple(pages)


def main() -> None:
    """Draw the pages of what comes in, within the limits given, each after its size."""
    try:
        for page in _drawn(take_limited()):
            sys.stdout.buffer.write(len(page).to_bytes(_SIZE, "big") + page)
    except BadPicture as wrong:
        refuse(str(wrong))


def _drawn(data: bytes) -> Iterator[bytes]:
    try:
        document = pypdfium2.PdfDocument(data)
        if not 1 <= len(document) <= MOST_PAGES:
            raise BadPicture(
                gettext(
                    "The PDF has %(count)s pages: send at most %(most_pages)s at a time.",
                    count=len(document),
                    most_pages=MOST_PAGES,
                )
            )
        for n in range(len(document)):
            yield _page(document[n])
    except (pypdfium2.PdfiumError, ValueError, MemoryError) as wrong:
        raise BadPicture(gettext(_DAMAGED)) from wrong


def _page(page: pypdfium2.PdfPage) -> bytes:
    scale = min(_LONG_SIDE_PX / max(*page.get_size(), 1.0), _MOST_SCALE)
    out = BytesIO()
    page.render(scale=scale).to_pil().convert("RGB").save(out, "JPEG", quality=95, subsampling=0)
    return out.getvalue()


if __name__ == "__main__":
    main()
