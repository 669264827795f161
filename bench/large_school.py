"""How much memory a school of two gigabytes takes to carry out, bring in, back up and restore.

Run: .venv/bin/python -m bench.large_school [megabytes]
"""

import os
import subprocess
import sys
import tempfile
import time
from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from pathlib import Path
from random import Random

import requests
from sqlalchemy.orm import Session

from bench.full_class import WHEEL, read_at_random
from noema.actions.assign_exercise import assign_exercise
from noema.actions.make_class import enrol_students, make_class
from noema.actions.print_sheets import print_sheets
from noema.actions.work_out_exercise import exercise_of
from noema.core.photo.reading import READER_VERSION
from noema.core.progress.states import PhotoState
from noema.devices.file_store import FileStore
from noema.devices.stores_at import files_at
from noema.formats.reading_json import reading_to_json
from noema.store.assignments import assignment_of_school
from noema.store.engine import bring_up_to_date, open_engine, open_sessions
from noema.store.photographs import NewPhoto, add_batch, add_photo, set_photo_state
from noema.store.readings import add_reading
from noema.store.sheets import sheets_of_assignment
from tools.cluster import Cluster
from tools.local import any_port
from tools.many_hosts import Teacher
from tools.small_school import SmallSchool, small_school
from tools.waiting import until

_ROOT = Path(__file__).parents[1]
_MEGABYTES, _MOST_MB, _MB = 2048, 300.0, 2**20
_PHOTO_BYTES, _STRAIGHT_BYTES = 1_200_000, 300_000
_NAME = "Saltmarsh Road School"
_SECRET = "s" * 48


def bench_large_school(megabytes: int) -> None:
    """Print the peak of each way, as a share of what is asked."""
    cluster = Cluster(_ROOT / ".local/large")
    cluster.start()
    try:
        with tempfile.TemporaryDirectory() as name:
            _measure(cluster, Path(name), megabytes)
    finally:
        cluster.remove()


def _measure(cluster: Cluster, folder: Path, megabytes: int) -> None:
    url, other = cluster.database("noema_large"), cluster.database("noema_other")
    engine = open_engine(url)
    bring_up_to_date(engine)
    sessions = open_sessions(engine)
    school = small_school(sessions)
    with sessions.begin() as session:
        count = _fill(session, files_at(str(folder / "files")), school, megabytes)
    engine.dispose()
    print(f"a school of {count} photographs with readings, {megabytes} MB of files")
    here = _environment(url, folder / "files")
    there = _environment(other, folder / "other")
    noema = str(_ROOT / ".venv/bin/noema")
    archive, backup = str(folder / "school.zip"), str(folder / "noema.tar")
    for words, environment in (
        ((noema, "archive", _NAME, "--out", archive), here),
        ((noema, "bring-in", archive), there),
        ((noema, "backup", backup), here),
        ((noema, "restore", backup), there),
    ):
        peak = _peak_mb(words, environment)
        print(f"noema {words[1]}: {peak / _MOST_MB:.2f} of {_MOST_MB:g} MB", flush=True)
    before, peak = _page_mb(here)
    print(
        f"the page that gives the archive: {peak / _MOST_MB:.2f} of {_MOST_MB:g} MB, of which "
        f"{before / _MOST_MB:.2f} before it was asked"
    )


def _fill(session: Session, files: FileStore, school: SmallSchool, megabytes: int) -> int:
    """Fill the school with files that can't be packed any smaller, and with readings of them."""
    rng, count = Random(4), 0
    class_id = make_class(session, school.id, "All of them", datetime.now(UTC).date(), 12)
    enrol_students(session, school.id, class_id, "\n".join(f"Painter {n:02d}" for n in range(40)))
    while count * (_PHOTO_BYTES + _STRAIGHT_BYTES) < megabytes * _MB:
        assignment_id = assign_exercise(
            session, WHEEL, school_id=school.id, class_id=class_id, teacher_id=school.teacher_id,
            due_week=6, rng=rng,
        )  # fmt: skip
        print_sheets(session, school.id, assignment_id)
        asked = exercise_of(session, assignment_of_school(session, school.id, assignment_id)).asked
        batch_id = add_batch(session, school.id, school.teacher_id)
        for sheet in sheets_of_assignment(session, assignment_id):
            new = NewPhoto(
                school_id=school.id,
                batch_id=batch_id,
                sha256=files.put(rng.randbytes(_PHOTO_BYTES)),
                size_bytes=_PHOTO_BYTES,
                megapixels=12.0,
                original_name="large.jpg",
                received_at=datetime.now(UTC),
            )
            photograph_id = add_photo(session, new)
            assert photograph_id is not None
            body = reading_to_json(read_at_random(asked, sheet.code, rng), "large.jpg")
            straight = files.put(rng.randbytes(_STRAIGHT_BYTES))
            add_reading(session, photograph_id, sheet.id, READER_VERSION, body, straight)
            set_photo_state(session, photograph_id, PhotoState.READ, sheet_id=sheet.id)
            count += 1
    return count


def _environment(url: str, files: Path) -> dict[str, str]:
    return {
        **os.environ,
        "NOEMA_DATABASE_URL": url,
        "NOEMA_FILES": str(files),
        "NOEMA_SECRET_KEY": _SECRET,
    }


def _peak_mb(words: Sequence[str], environment: Mapping[str, str]) -> float:
    """Run a command; gives the most memory its process ever held, as the system says."""
    process = subprocess.Popen(words, env=environment, stdout=subprocess.DEVNULL)
    peak = 0.0
    while process.poll() is None:
        peak = max(peak, _held_mb(process.pid))
        time.sleep(0.01)
    assert process.returncode == 0, words
    return peak


def _held_mb(pid: int) -> float:
    try:
        said = Path(f"/proc/{pid}/status").read_text(encoding="utf-8")
    except FileNotFoundError:
        return 0.0
    found = [line for line in said.splitlines() if line.startswith("VmHWM")]
    return float(found[0].split()[1]) / 1024.0 if found else 0.0


def _page_mb(environment: Mapping[str, str]) -> tuple[float, float]:
    """Fetch the school's archive from a page; gives what its process held before, and at most."""
    port = any_port()
    words = [
        str(_ROOT / ".venv/bin/gunicorn"), "--bind", f"127.0.0.1:{port}", "--workers", "1",
        "--threads", "4", "noema.assemble_pages:web_application()",
    ]  # fmt: skip
    pages = subprocess.Popen(words, env=environment, stderr=subprocess.DEVNULL)
    address = f"http://127.0.0.1:{port}"
    until(lambda: requests.get(f"{address}/health/live", timeout=5).ok)
    teacher = Teacher(address)
    children = Path(f"/proc/{pages.pid}/task/{pages.pid}/children").read_text(encoding="utf-8")
    [process] = [int(pid) for pid in children.split()]
    before = _held_mb(process)
    got = sum(len(piece) for piece in teacher.pieces("/school-archive.zip"))
    assert got > _MB, "the archive is empty"
    peak = _held_mb(process)
    pages.terminate()
    pages.wait(30)
    return before, peak


if __name__ == "__main__":
    bench_large_school(int(sys.argv[1]) if sys.argv[1:] else _MEGABYTES)
