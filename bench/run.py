"""Speed as ratios, one line a promise: `make bench`.

Times of this machine mean little; each is divided by the time of something known, in the same run.
"""

import gc
import subprocess
import sys
import time
import warnings
from http import HTTPStatus
from itertools import cycle
from pathlib import Path
from random import Random

import numpy as np

with warnings.catch_warnings():
    warnings.simplefilter("ignore")  # about plotting, which isn't wanted
    from colour import XYZ_to_xyY, xyY_to_munsell_colour
    from colour.notation.munsell import xyY_to_munsell_specification

from bench.full_class import WHEEL, fill_class, read_at_random
from bench.opened import opened
from bench.painting_from import bench_painting_from
from bench.plan_pages import bench_year
from bench.planning import bench_planning
from bench.reading import bench_reading, times
from noema.actions.create_school import create_school
from noema.actions.keep_paint_set import NewSet, keep_paint_set
from noema.actions.work_out_exercise import exercise_of
from noema.assemble_pages import web_application_of
from noema.core.colour.adaptation import D50_TO_C
from noema.core.colour.hvc import lab_to_hvc
from noema.core.colour.lab import lab_to_xyz
from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.asked import Ground
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.levels import Key, Level
from noema.core.judging.judge import judge
from noema.core.pigments.drying import Binder
from noema.core.pigments.mix import Part, mix_labs
from noema.core.pigments.next_move import next_move
from noema.core.pigments.qualities import strengths
from noema.core.pigments.recipe import forget, recipe
from noema.core.pigments.shelf import TUBES, builtin_set
from noema.core.sheet.drawn_worksheet import Printed, draw_worksheet
from noema.core.sheet.paper import Paper
from noema.core.sheet.worksheet import worksheet_layout
from noema.formats.sheet_pdf import sheets_pdf
from noema.settings import Settings
from noema.store.assignments import assignments_of_class
from noema.store.engine import Sessions
from noema.store.people import teacher_by_email
from noema.store.reviews import waiting_for_review

NOEMA = Path(sys.executable).with_name("noema")
PASSWORD = "a password of some length"
_MILLION, _SURFACES = 1_000_000, 360


def bench_pages(sessions: Sessions, settings: Settings) -> None:
    serial = time.time_ns()
    email = f"bench{serial}@school.example"
    names = list(TUBES)[:16]
    with sessions.begin() as session:
        school_id = create_school(session, f"Bench {serial}", email, "Bench", PASSWORD)
        teacher = teacher_by_email(session, email)
        sixteen = NewSet(name="Sixteen", binder=Binder.ACRYLIC, tubes=tuple(names))
        ref = keep_paint_set(session, school_id, sixteen)
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
    skills = times(lambda: client.get(f"/progress/classes/{full}/skills"), 10)
    print(f"skills of 32 students, 384 sheets / 500 ms: {skills / 0.5:.2f} (at most 1)")
    chosen = "&".join(f"tube={name}" for name in names)
    ways = f"/paints/sets/{ref}/explore?one=scarlet&other=ultramarine&steps=13&wet=1"
    for what, url in (
        ("shelf, a tube chosen", f"/paints/preview?{chosen}"),
        ("explorer, two tubes", ways),
        ("explorer, three tubes", f"{ways}&third=lemon-yellow"),
    ):
        answer = times(lambda url=url: client.get(url), 20)
        print(f"{what}, 16 in the set / 150 ms: {answer / 0.15:.2f} (at most 1)")


def bench_review(sessions: Sessions, settings: Settings) -> None:
    """Judging, the desk and a class's patterns, with sheets of 36 cells from 32 students."""
    serial = time.time_ns()
    email = f"review{serial}@school.example"
    with sessions.begin() as session:
        school_id = create_school(session, f"Review {serial}", email, "Bench", PASSWORD)
        teacher = teacher_by_email(session, email)
    if teacher is None:
        sys.exit("noema: the bench's teacher isn't there.")
    full = fill_class(sessions, school_id, teacher.id, students=32, assignments=1, chosen=(WHEEL,))
    with sessions() as session:
        assignment = assignments_of_class(session, full)[0]
        asked = exercise_of(session, assignment).asked
        queue = [one.photograph_id for one in waiting_for_review(session, school_id)]
    readings = cycle([read_at_random(asked, "K7Q2-04", Random(n)) for n in range(20)])
    gc.freeze()

    def judge_one() -> None:
        judge(next(readings), asked, Key.PAINTS, Level.BEGINNER, paints=WHEEL.paints)

    taken = times(judge_one, 20)
    print(f"judging a read sheet of 36 cells / 30 ms: {taken / 0.03:.2f} (at most 1)")
    app = web_application_of(settings, sessions)
    app.config["WTF_CSRF_ENABLED"] = False
    client = app.test_client()
    client.post("/log-in", data={"email": email, "password": PASSWORD})
    turn = cycle(queue)
    desk = times(lambda: client.get(f"/review/{next(turn)}"), 20)
    print(f"the desk shows the next sheet / 150 ms: {desk / 0.15:.2f} (at most 1)")
    patterns = times(lambda: client.get(f"/exercises/{assignment.id}/patterns"), 10)
    print(f"patterns of 32 sheets of 36 cells / 300 ms: {patterns / 0.3:.2f} (at most 1)")
    many = fill_class(sessions, school_id, teacher.id, students=240, assignments=1)
    with sessions() as session:
        assignment = assignments_of_class(session, many)[0]
    levels = cycle(Level)

    def change_level() -> None:
        chosen = {"key": Key.NAMED.value, "level": next(levels).value, "set": ""}
        answer = client.post(f"/assignments/{assignment.id}/held", data=chosen)
        assert answer.status_code == HTTPStatus.SEE_OTHER, answer.get_data(as_text=True)

    held = times(change_level, 10)
    print(f"another level for 240 sheets that are read / 300 ms: {held / 0.3:.2f} (at most 1)")


def bench_hvc() -> None:
    """A million lines through `noema hvc` beside the reference, a colour each."""
    rng = np.random.default_rng(1)
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        some = rng.uniform([0.28, 0.28, 0.1], [0.36, 0.36, 0.6], (40, 3))
        reference = times(lambda: [xyY_to_munsell_colour(one) for one in some], 1) / len(some)
    lab = rng.uniform([20, -50, -50], [90, 50, 50], (_MILLION, 3))
    lines = "\n".join(f"{lightness:.3f},{a:.3f},{b:.3f}" for lightness, a, b in lab.tolist())
    start = time.perf_counter()
    subprocess.run([NOEMA, "hvc"], input=lines, capture_output=True, text=True, check=True)
    own = (time.perf_counter() - start) / _MILLION
    print(
        f"noema hvc on a million lines, a colour: reference / ours: {reference / own:,.0f}", end=""
    )
    print(" (at least 1,000)")


def bench_hvc_truth() -> None:
    """Surface colours of made-up reflectances against the reference implementation."""
    rng = np.random.default_rng(360)
    amounts = rng.dirichlet(np.full(len(TUBES), 0.12), _SURFACES)
    labs = mix_labs(tuple(TUBES.values()), amounts)
    ours = lab_to_hvc(labs)
    theirs = np.array([_reference_hvc(lab) for lab in labs])
    there = np.isfinite(theirs).all(axis=1)
    strong = there & (theirs[:, 2] >= 2.0)
    hue = np.abs((ours[strong, 0] - theirs[strong, 0] + 50.0) % 100.0 - 50.0)
    value = np.abs(ours[there, 1] - theirs[there, 1]).max()
    chroma = np.abs(ours[strong, 2] - theirs[strong, 2])
    print(
        f"{there.sum()} of {_SURFACES} surface colours, ours against the reference: value within"
        f" {value:.4f} (0.01); {strong.sum()} of chroma 2 and more: hue"
        f" {np.percentile(hue, 95):.3f} (0.3), chroma {np.percentile(chroma, 95):.3f} (0.15), p95"
    )


def _reference_hvc(lab: np.ndarray) -> np.ndarray:
    xyz = lab_to_xyz(lab) @ D50_TO_C.T / 100.0
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        try:
            spec = xyY_to_munsell_specification(XYZ_to_xyY(xyz))
        except (RuntimeError, AssertionError, ValueError):  # outside the renotation
            return np.full(3, np.nan)
    # The library numbers the hue families backwards from purple-blue = 10 ... blue = 1.
    family = [7, 6, 5, 4, 3, 2, 1, 10, 9, 8].index(int(spec[3])) if np.isfinite(spec[3]) else 0
    return np.array([(10.0 * family + spec[0]) % 100.0, spec[1], spec[2]])


def bench_class_set() -> None:
    """Worksheets of a 12-hue wheel with two rings for a class of 32."""
    ground = Ground(paints=builtin_set("split-six"), table=USUAL_HUES)
    wanted = kind_of("colour-wheel").chosen({"rings": ("tint-in", "neutral-2")})

    def class_set() -> bytes:
        asked = kind_of("colour-wheel").asked(wanted, ground)
        drawings = []
        for number in range(1, 33):
            layout = worksheet_layout(asked, Paper.A4, f"K7Q2-{number:02d}", grey_only=False)
            drawings.append(draw_worksheet(layout, asked, Paper.A4, Printed(student="Somebody")))
        return sheets_pdf(drawings, "class set")

    taken = times(class_set, 3)
    size = len(class_set()) / 3_000_000
    print(f"32 wheels of 12 hues with two rings / 5 s: {taken / 5.0:.2f} (at most 1)", end="")
    print(f"; their PDF / 3 MB: {size:.2f} (at most 1)")


def bench_paint() -> None:
    """Recipes and next moves with a set of twelve, every time as if for the first time."""
    tubes = tuple(TUBES.values())[:12]
    strengths(tubes)
    rng = np.random.default_rng(5)
    targets = mix_labs(tubes, rng.dirichlet(np.full(12, 0.2), 40))
    taken, moved = [], []
    for target in targets:
        forget()
        start = time.perf_counter()
        recipe(target, tubes)
        taken.append(time.perf_counter() - start)
        pile = tuple(Part(tube=tube, amount=1.0) for tube in tubes[1:3])
        start = time.perf_counter()
        next_move(target + [4.0, 3.0, -3.0], pile, target, tubes)
        moved.append(time.perf_counter() - start)
    for name, times_taken in (("recipe", taken), ("next move", moved)):
        share = np.array(times_taken) / 0.050
        print(
            f"{name} with 12 tubes, nothing remembered / 50 ms:"
            f" {np.median(share):.2f} in the middle, {share.max():.2f} at most (at most 1)"
        )


def main() -> None:
    bench_reading()
    bench_hvc()
    bench_hvc_truth()
    bench_paint()
    bench_class_set()
    bench_planning()
    bench_painting_from()
    with opened() as (sessions, settings):
        bench_pages(sessions, settings)
        bench_review(sessions, settings)
        bench_year(sessions, settings)


if __name__ == "__main__":
    main()
