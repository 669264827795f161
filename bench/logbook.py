"""Finding the nearest among 300,000 logbook entries, and answering an act at the bench.

Entries are mixes of all tubes at random, so that they lie where paint lies. What the index offers
is held against looking at every one of them.
"""

import statistics
import time
from collections.abc import Callable
from datetime import date

import numpy as np
from numpy.random import default_rng
from sqlalchemy import text
from sqlalchemy.orm import Session

from bench.opened import opened
from noema.actions.create_school import create_school
from noema.actions.make_class import enrol_students, make_class
from noema.actions.practise import BenchPaints, begin, do, practice_from, task_named
from noema.assemble_pages import web_application_of
from noema.core.bench.doing import BeginPile, MixPile, Squeeze, Take
from noema.core.bench.predicting import Prediction
from noema.core.colour.difference import ciede2000
from noema.core.colour.names import USUAL_HUES
from noema.core.pigments.drying import Binder
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.shelf import TUBES, PaintSet, builtin_tube
from noema.settings import Settings
from noema.store.bench import Practiser, practice_of_class
from noema.store.engine import Sessions
from noema.store.logbook import LogScope, nearest_entries
from noema.store.people import teacher_by_email

ENTRIES, ASKED = 300_000, 200
_CHUNK, _LIMIT_S, _ACT_S = 20_000, 0.050, 0.080
_PASSWORD = "a password of some length"
_TWELVE = (
    "titanium-white", "lemon-yellow", "warm-yellow", "orange", "scarlet", "rose", "magenta",
    "dioxazine-violet", "ultramarine", "phthalo-blue", "phthalo-green", "burnt-sienna",
)  # fmt: skip


def main() -> None:
    """Fill a database of its own and measure."""
    with opened() as (sessions, settings):
        _measure(sessions, settings)


def _measure(sessions: Sessions, settings: Settings) -> None:
    serial = time.time_ns()
    with sessions.begin() as session:
        email = f"log{serial}@school.example"
        school_id = create_school(session, f"Logbook {serial}", email, "Bench", _PASSWORD)
        class_id = make_class(session, school_id, "Year 8", date(2026, 9, 7), 12)
        enrol_students(session, school_id, class_id, "Ada Fenwick")
        labs = _fill(session, school_id)
    with sessions() as session:
        session.connection(execution_options={"isolation_level": "AUTOCOMMIT"}).execute(
            text("VACUUM ANALYZE logbook_entry")
        )
    with sessions() as session:
        _nearest(session, school_id, labs)
    _acts(sessions, settings, school_id, class_id, email)


def _fill(session: Session, school_id: int) -> np.ndarray:
    rng, tubes = default_rng(5), tuple(TUBES.values())
    found = []
    for _ in range(ENTRIES // _CHUNK):
        amounts = np.zeros((_CHUNK, len(tubes)))
        for row in amounts:
            some = rng.choice(len(tubes), 3, replace=False)
            row[some] = rng.dirichlet([0.5, 0.5, 0.5])
        found.append(mix_labs(tubes, amounts))
    labs = np.concatenate(found)
    for start in range(0, len(labs), _CHUNK):
        session.execute(
            text(
                "INSERT INTO logbook_entry"
                " (school_id, kind, title, words, parts, lightness, a, b)"
                " VALUES (:school, 'note', :title, '', '[]', :l, :a, :b)"
            ),
            [
                {
                    "school": school_id,
                    "title": str(start + n),
                    "l": lab[0],
                    "a": lab[1],
                    "b": lab[2],
                }
                for n, lab in enumerate(labs[start : start + _CHUNK].tolist())
            ],
        )
    return labs


def _nearest(session: Session, school_id: int, labs: np.ndarray) -> None:
    rng, scope = default_rng(6), LogScope(school_id=school_id)
    wanted = labs[rng.choice(len(labs), ASKED)] + rng.normal(0.0, 3.0, (ASKED, 3))
    took, same, worst = [], [], 0.0
    for lab in wanted:
        colour = (float(lab[0]), float(lab[1]), float(lab[2]))
        start = time.perf_counter()
        found = nearest_entries(session, scope, colour)
        took.append(time.perf_counter() - start)
        session.expunge_all()
        away = ciede2000(labs, lab)
        best = np.sort(away)[: len(found)]
        given = np.array([one.away for one in found])
        same.append(float(np.mean(given <= best[-1] + 1e-9)))
        worst = max(worst, float(given[-1] - best[-1]))
    print(
        f"nearest of {len(labs):,} / 50 ms: median {statistics.median(took) / _LIMIT_S:.2f}, "
        f"95% {np.quantile(took, 0.95) / _LIMIT_S:.2f} (at most 1); "
        f"{np.mean(same):.1%} of the ten nearest found, at worst {worst:.2f} CIEDE2000 farther"
    )


def _acts(
    sessions: Sessions, settings: Settings, school_id: int, class_id: int, email: str
) -> None:
    """Time an act at a bench of twelve tubes, after forty touches, by its page."""
    tubes = tuple(builtin_tube(name) for name in _TWELVE)
    paints = PaintSet(name="twelve", label="Twelve", says="", tubes=tubes, binder=Binder.ACRYLIC)
    with sessions.begin() as session:
        teacher = teacher_by_email(session, email)
        assert teacher is not None
        who = Practiser(school_id=school_id, class_id=class_id, teacher_id=teacher.id)
        task = task_named("match-advanced", paints, USUAL_HUES, default_rng(2))
        go = begin(session, who, BenchPaints(paints=paints), task)
        do(
            session,
            practice_of_class(session, class_id, go),
            [BeginPile(pile="a")],
            Prediction(),
            USUAL_HUES,
        )
        for n in range(40):
            tube = _TWELVE[n % len(_TWELVE)]
            acts = [
                Squeeze(tube=tube, ml=0.1),
                Take(source=tube, ml=0.1, pile="a"),
                MixPile(pile="a"),
            ]
            do(session, practice_of_class(session, class_id, go), acts, Prediction(), USUAL_HUES)
        count = len(practice_from(practice_of_class(session, class_id, go)).acts)
    app = web_application_of(settings, sessions)
    app.config["WTF_CSRF_ENABLED"] = False
    client = app.test_client()
    client.post("/log-in", data={"email": email, "password": _PASSWORD})
    here = f"/classes/{class_id}/bench/{go}"

    def asks(button: str) -> Callable[[], None]:
        def ask() -> None:
            data = {"do": button, "acts": str(count), "source": "rose", "ml": "0.1", "pile": "a"}
            answer = client.post(f"{here}/do", data=data, headers={"HX-Request": "true"})
            assert answer.status_code == 200, answer.text

        return ask

    for button in ("nearer", "which", "hint"):
        _say(button, asks(button))
    took = []
    for _ in range(20):
        start = time.perf_counter()
        asks("bring")()
        took.append(time.perf_counter() - start)
        with sessions() as session:
            count = len(practice_from(practice_of_class(session, class_id, go)).acts)
    _told("bring in", took)


def _say(button: str, ask: Callable[[], None]) -> None:
    ask()
    took = []
    for _ in range(15):
        start = time.perf_counter()
        ask()
        took.append(time.perf_counter() - start)
    _told(button, took)


def _told(button: str, took: list[float]) -> None:
    ratio = statistics.median(took) / _ACT_S
    print(f"bench, {button}, twelve tubes / 80 ms: {ratio:.2f} (at most 1)")


if __name__ == "__main__":
    main()
