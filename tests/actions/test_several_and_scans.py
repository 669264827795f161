"""Several sheets in one photograph, and scans, become an attempt a sheet."""

from datetime import UTC, datetime
from io import BytesIO

import numpy as np
import pytest
from PIL import Image, ImageOps

from noema.actions.hand_in_photo import hand_in_file
from noema.actions.read_photograph import read_photograph
from noema.core.progress.states import PhotoState
from noema.store.photographs import add_batch, photos_of_batch


def pixels(jpeg: bytes) -> np.ndarray:
    return np.asarray(ImageOps.exif_transpose(Image.open(BytesIO(jpeg))).convert("RGB"))


def handed_in(school, name: str, data: bytes):
    with school.sessions.begin() as session:
        batch = add_batch(session, school.id, school.teacher_id)
        outcomes = hand_in_file(
            session,
            school.files,
            school_id=school.id,
            batch_id=batch,
            name=name,
            data=data,
            received_at=datetime.now(UTC),
        )
    return batch, outcomes


def all_read(school, batch: int):
    """Read the batch as the worker does: what reading adds is read as well."""
    for _ in range(2):
        with school.sessions.begin() as session:
            for photo in photos_of_batch(session, batch):
                read_photograph(session, school.files, photo.id)
    with school.sessions() as session:
        return photos_of_batch(session, batch)


@pytest.fixture
def two(school):
    sheets = school.sheets()[:2]
    shots = [pixels(school.photo_of(sheet, seed=n)) for n, sheet in enumerate(sheets, start=1)]
    height = min(shot.shape[0] for shot in shots)
    return sheets, np.hstack([shot[:height] for shot in shots])


def test_each_sheet_of_one_photograph_is_its_students(school, two):
    sheets, together = two
    out = BytesIO()
    Image.fromarray(together).save(out, "JPEG", quality=95)
    batch, _ = handed_in(school, "both.jpg", out.getvalue())
    photos = all_read(school, batch)
    assert [photo.state for photo in photos] == [PhotoState.READ] * 2
    assert {photo.code for photo in photos} == {sheet.code for sheet in sheets}
    assert len({photo.sha256 for photo in photos}) == 1


def test_pages_of_a_scan_are_photographs_and_the_scan_is_kept(school):
    sheets = school.sheets()[:2]
    pages = [Image.fromarray(pixels(school.photo_of(sheet, seed=5))) for sheet in sheets]
    out = BytesIO()
    pages[0].save(out, "PDF", save_all=True, append_images=pages[1:], resolution=150)
    batch, outcomes = handed_in(school, "scan.pdf", out.getvalue())
    assert [outcome.name for outcome in outcomes] == ["scan.pdf, page 1", "scan.pdf, page 2"]
    photos = all_read(school, batch)
    assert [photo.code for photo in photos] == [sheet.code for sheet in sheets]
    again, known = handed_in(school, "scan.pdf", out.getvalue())
    assert all(outcome.known for outcome in known)
    assert again != batch


def test_a_broken_scan_is_refused_by_name(school):
    _, (outcome,) = handed_in(school, "scan.pdf", b"%PDF-1.7 nothing else")
    assert outcome.photo is None
    assert "can't be opened" in outcome.refused
