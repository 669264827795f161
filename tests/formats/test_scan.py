"""A PDF of several sheets becomes a photograph a page."""

import pytest

from noema.core.errors import BadPicture
from noema.core.photo.read import read_photo
from noema.formats.photo_file import open_photo
from noema.formats.scan import is_scan, pages_of_scan
from tests.core.photo.sheets import sheet_with_code

LAYOUT, PDF = sheet_with_code("K7Q2-04")


def test_pages_can_be_read_as_photographs():
    (page,) = pages_of_scan(PDF)
    reading = read_photo(open_photo(page), LAYOUT).reading
    assert (reading.found, reading.sheet) == (True, "K7Q2-04")


def test_what_isnt_a_scan_is_told_apart():
    assert is_scan(PDF)
    assert not is_scan(b"\xff\xd8\xff")


@pytest.mark.parametrize("wrong", [PDF[:400], b"%PDF-1.7", b"%PDF" + b"x" * 9000])
def test_a_broken_scan_is_refused(wrong):
    with pytest.raises(BadPicture, match="can't be opened"):
        pages_of_scan(wrong)
