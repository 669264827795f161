"""Scans of several sheets in one PDF: every page becomes a photograph of its own.

The renderer may not be used from threads, so pages are drawn in a process that ends afterwards.
"""

from concurrent.futures import ProcessPoolExecutor
from concurrent.futures import TimeoutError as TooSlow
from concurrent.futures.process import BrokenProcessPool
from io import BytesIO
from multiprocessing import get_context

import pypdfium2
from PIL import Image

from noema.core.errors import BadPicture
from noema.core.language import gettext

MOST_PAGES = 40
_LONG_SIDE_PX = 2600  # of a page: more than the reader uses
_MOST_SCALE = 8.0  # pixels a point: a stamp-sized page isn't blown up without end
_PATIENCE_S = 60
_DAMAGED = "The PDF can't be opened: scan the sheets again, or send them as pictures."


def is_scan(data: bytes) -> bool:
    """Whether bytes are a PDF."""
    return data[:1024].lstrip().startswith(b"%PDF")


def pages_of_scan(data: bytes) -> tuple[bytes, ...]:
    """Give each page of a PDF as a JPEG; refuse what can't be opened or has too many pages."""
    with ProcessPoolExecutor(max_workers=1, mp_context=get_context("spawn")) as pool:
        try:
            return pool.submit(_drawn, data).result(timeout=_PATIENCE_S)
        except (BrokenProcessPool, TooSlow) as wrong:
            raise BadPicture(_DAMAGED) from wrong


def _drawn(data: bytes) -> tuple[bytes, ...]:
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
        return tuple(_page(document[n]) for n in range(len(document)))
    except (pypdfium2.PdfiumError, ValueError, MemoryError) as wrong:
        raise BadPicture(_DAMAGED) from wrong


def _page(page: pypdfium2.PdfPage) -> bytes:
    scale = min(_LONG_SIDE_PX / max(*page.get_size(), 1.0), _MOST_SCALE)
    rgb = page.render(scale=scale, rev_byteorder=True).to_numpy()[..., :3]
    out = BytesIO()
    Image.fromarray(rgb).save(out, "JPEG", quality=95, subsampling=0)
    return out.getvalue()
