"""What nobody needs any more goes by itself; what a row names stays."""

import os
import time
from datetime import UTC, datetime, timedelta
from io import BytesIO

import pytest
from sqlalchemy import text

from noema.actions.hand_in_photo import hand_in_file
from noema.actions.sweep import forget_abandoned, remove_orphans
from noema.core.errors import NotFound
from noema.devices.file_store import LocalFiles
from noema.devices.piece_store import LocalPieces
from noema.store.photographs import add_batch

DAY_S = 24 * 3600


@pytest.fixture
def own_files(tmp_path):
    return LocalFiles(tmp_path / "files")


def grown_old(files: LocalFiles, folder) -> None:
    for place in folder.rglob("*"):
        if place.is_file():
            os.utime(place, (time.time() - 2 * DAY_S,) * 2)


def test_files_without_a_row_go_after_a_day_and_no_others(school, own_files, tmp_path):
    with school.sessions.begin() as session:
        kept = hand_in_file(
            session,
            own_files,
            school_id=school.id,
            batch_id=add_batch(session, school.id, school.teacher_id),
            name="a.jpg",
            data=school.photo_of(school.sheets()[0]),
            received_at=datetime.now(UTC),
        )[0].photo
    orphan, again, fresh = (own_files.put(data) for data in (b"orphan", b"again", b"fresh"))
    grown_old(own_files, tmp_path / "files")
    own_files.put(b"again")
    own_files.remove(fresh)
    own_files.put(b"fresh")
    with school.sessions() as session:
        assert remove_orphans(session, own_files) == 1
    with pytest.raises(NotFound):
        own_files.get(orphan)
    for sha256 in (kept.sha256, again, fresh):
        assert own_files.get(sha256)


def test_a_refused_scan_and_a_refused_calibration_leave_no_file(app, school, files):
    def names():
        return set(files.untouched(-60.0))

    before = names()
    client = school.teacher(app)
    batch = client.post("/batches").json["batch"]
    scan = client.post(
        f"/batches/{batch}/photos", data={"photo": (BytesIO(b"%PDF-1.4 broken"), "scan.pdf")}
    )
    assert scan.json["state"] == "refused"
    client.post("/printers", data={"name": "Copier"})
    with school.sessions() as session:
        number = session.scalar(
            text("SELECT id FROM printer WHERE school_id = :s"), {"s": school.id}
        )
    photo = school.photo_of(school.sheets()[0], seed=77)
    refused = client.post(
        f"/printers/{number}/photographs", data={"card": "1", "photo": (BytesIO(photo), "p.jpg")}
    )
    assert refused.status_code in (404, 422)
    assert names() == before


def test_a_photograph_that_never_came_whole_is_forgotten(app, school, tmp_path):
    client = school.student(app)
    begun = client.post(
        f"/me/exercises/{school.assignment_id}/uploads", data={"name": "a.jpg", "size": "9"}
    )
    upload_id = begun.json["upload"]
    pieces = LocalPieces(tmp_path / "pieces")
    pieces.append(upload_id, 0, b"half")
    now = datetime.now(UTC)
    with school.sessions.begin() as session:
        assert forget_abandoned(session, pieces, now) == 0
    with school.sessions.begin() as session:
        assert forget_abandoned(session, pieces, now + timedelta(days=2)) >= 1
    assert pieces.length(upload_id) == 0
    with school.sessions() as session:
        left = session.scalar(text("SELECT count(*) FROM upload WHERE id = :u"), {"u": upload_id})
    assert left == 0
