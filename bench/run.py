"""Speed as ratios, one line a promise: `make bench`.

Times of this machine mean little; each is divided by the time of something known, in the same run.
"""

import gc
import sys
import time
import warnings
from collections.abc import Callable
from pathlib import Path
from statistics import median

import cv2
import numpy as np

with warnings.catch_warnings():
    warnings.simplefilter("ignore")  # about plotting, which isn't wanted
    from colour import xyY_to_munsell_colour

from bench.full_class import fill_class
from noema.actions.create_school import create_school
from noema.assemble import web_application_of
from noema.core.colour.hvc import lab_to_hvc
from noema.core.photo.decode import decode_picture
from noema.core.photo.read import read_photo
from noema.formats.photo_file import check_photo
from noema.settings import Settings
from noema.stand_ins.studio import take_picture
from noema.store.engine import Sessions, bring_up_to_date, open_engine, open_sessions
from noema.store.people import teacher_by_email
from tools.cluster import Cluster
from tools.photographs import sheet_of

ROOT = Path(__file__).parents[1]
PASSWORD = "a password of some length"


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
    layout, pdf = sheet_of(4)
    jpeg = take_picture(layout, pdf, seed=4, preset="class").jpeg
    encoded = np.frombuffer(jpeg, dtype=np.uint8)
    bare = times(lambda: cv2.imdecode(encoded, cv2.IMREAD_COLOR), 20)
    megapixels = check_photo(jpeg).megapixels
    whole = times(lambda: read_photo(decode_picture(jpeg, megapixels), layout), 20)
    print(
        f"reading a {megapixels:.0f}-megapixel JPEG / decoding it: {whole / bare:.2f} (at most 4)"
    )


def bench_class_page(sessions: Sessions, settings: Settings) -> None:
    serial = time.time_ns()
    email = f"bench{serial}@school.example"
    with sessions.begin() as session:
        school_id = create_school(session, f"Bench {serial}", email, "Bench", PASSWORD)
        teacher = teacher_by_email(session, email)
    if teacher is None:
        sys.exit("noema: the bench's teacher isn't there.")
    full = fill_class(sessions, school_id, teacher.id, students=32, assignments=12)
    app = web_application_of(settings, sessions)
    app.config["WTF_CSRF_ENABLED"] = False
    client = app.test_client()
    client.post("/log-in", data={"email": email, "password": PASSWORD})
    gc.freeze()  # as the application does when it starts
    page = times(lambda: client.get(f"/progress/classes/{full}"), 20)
    print(f"class page, 32 students × 12 assignments / 100 ms: {page / 0.1:.2f} (at most 1)")


def bench_hvc() -> None:
    rng = np.random.default_rng(1)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        some = rng.uniform([0.28, 0.28, 0.1], [0.36, 0.36, 0.6], (40, 3))
        reference = times(lambda: [xyY_to_munsell_colour(one) for one in some], 1) / len(some)
    lab = rng.uniform([20, -50, -50], [90, 50, 50], (100_000, 3))
    own = times(lambda: lab_to_hvc(lab), 3) / len(lab)
    print(
        f"HVC of a colour, reference implementation / ours: {reference / own:,.0f} (at least 1,000)"
    )


def main() -> None:
    bench_reading()
    bench_hvc()
    cluster = Cluster(ROOT / ".local/test/postgres")
    cluster.start()
    engine = open_engine(cluster.database("noema_bench"))
    bring_up_to_date(engine)
    settings = Settings(
        database_url=cluster.url("noema_bench"),
        files=str(ROOT / ".local/bench"),
        secret_key="only for the bench, and long enough for it",
        log_ins_a_minute=0,
    )
    bench_class_page(open_sessions(engine), settings)
    engine.dispose()
    cluster.stop()


if __name__ == "__main__":
    main()
