"""Saltmarsh Road School, which doesn't exist: its teachers, classes and how its students paint."""

from collections.abc import Mapping
from dataclasses import dataclass

from numpy.random import Generator

from noema.core.coaching.audience import Audience
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.stand_ins.painter import Hand

SCHOOL = "Saltmarsh Road School"
PASSWORD = "saltmarsh-demo"
TEACHERS = (("ines@saltmarsh.example", "Ines Marlow"), ("tobias@saltmarsh.example", "Tobias Renn"))
WEEK, UNIT_WEEKS = 6, 12


@dataclass(frozen=True, kw_only=True)
class Given:
    """An assignment in the story."""

    kind: str
    options: Mapping[str, object]
    medium: Medium
    level: Level
    key: Key
    week: int
    handed_in: float  # share of the class; 0 when it isn't even printed
    reviewed: float  # share of those, looked at by the teacher
    set_name: str | None = None  # as the shelf calls it; None for a plain value scale
    printed: bool = True
    shown: bool = False  # the teacher painted a sheet too, as key


@dataclass(frozen=True, kw_only=True)
class DemoClass:
    """A class in the story."""

    name: str
    audience: Audience  # whom sentences are for
    students: tuple[str, ...]
    given: tuple[Given, ...]


def _names(text: str) -> tuple[str, ...]:
    return tuple(text.split(", "))


CLASSES = (
    DemoClass(
        name="Year 8 Colour",
        audience=Audience.CHILD,
        students=_names(
            "Ada Fenwick, Bram Oyelaran, Celia Voss, Dario Pell, Edda Quist, Femi Harrow, "
            "Greta Lindqvist, Hugo Abara, Ivy Castellan, Jonas Wray, Kaya Minton, "
            "Leo Sandoval, Mara Okonjo, Nils Bergam, Odile Parrish, Pavel Stroud, "
            "Quinn Adeyemi, Rosa Thackray, Sami Delorme, Tilda Nakato, Umar Fairley, "
            "Vera Colquist, Wim Ashdown, Yara Blum"
        ),
        given=(
            Given(
                kind="value-scale",
                options={"steps": 5},
                medium=Medium.PENCIL,
                level=Level.BEGINNER,
                key=Key.NAMED,
                week=2,
                handed_in=0.92,
                reviewed=1.0,
            ),
            Given(
                kind="value-scale",
                options={"steps": 7},
                medium=Medium.ACRYLIC,
                level=Level.BEGINNER,
                key=Key.OWN_ENDS,
                week=4,
                handed_in=0.88,
                reviewed=1.0,
            ),
            Given(
                kind="colour-wheel",
                options={"hues": 12, "rings": ("tint-in",)},
                medium=Medium.ACRYLIC,
                set_name="Room 12 acrylics",
                level=Level.BEGINNER,
                key=Key.PAINTS,
                week=5,
                handed_in=0.7,
                reviewed=0.5,
            ),
            Given(
                kind="value-scale",
                options={"steps": 9},
                medium=Medium.ACRYLIC,
                level=Level.BEGINNER,
                key=Key.NAMED,
                week=6,
                handed_in=0.75,
                reviewed=0.0,
            ),
        ),
    ),
    DemoClass(
        name="Year 10 Painting",
        audience=Audience.TEENAGER,
        students=_names(
            "Anouk Fell, Basil Marchetti, Cleo Strand, Desmond Ilves, Elin Prowse, "
            "Faris Nolan, Gwen Tamber, Hana Whitlock, Ilya Corrie, Juno Bexley, "
            "Karim Oster, Lotte Farrow, Milo Jessop, Nadia Grieve, Otis Pemba, Petra Vale, "
            "Rafe Sondergard, Suki Lorne"
        ),
        given=(
            Given(
                kind="value-scale",
                options={"steps": 9},
                medium=Medium.CHARCOAL,
                level=Level.INTERMEDIATE,
                key=Key.OWN_ENDS,
                week=3,
                handed_in=0.9,
                reviewed=0.9,
            ),
            Given(
                kind="value-scale",
                options={"steps": 9},
                medium=Medium.ACRYLIC,
                level=Level.INTERMEDIATE,
                key=Key.NAMED,
                week=5,
                handed_in=0.8,
                reviewed=0.6,
            ),
            Given(
                kind="intensity-chart",
                options={"steps": 7},
                medium=Medium.GOUACHE,
                set_name="split-six+black",
                level=Level.INTERMEDIATE,
                key=Key.TEACHER,
                week=6,
                handed_in=0.5,
                reviewed=0.0,
                shown=True,
            ),
            Given(
                kind="value-scale",
                options={"steps": 11},
                medium=Medium.GOUACHE,
                level=Level.INTERMEDIATE,
                key=Key.NAMED,
                week=7,
                handed_in=0.0,
                reviewed=0.0,
                printed=False,
            ),
        ),
    ),
    DemoClass(
        name="Evening Painting",
        audience=Audience.ADULT,
        students=_names(
            "Agnes Holloway, Bertil Quaye, Corinne Dasch, Emrys Tull, Farida Lowe, "
            "Gil Anstey, Hedda Merrow, Joaquim Stell, Winifred Okoro"
        ),
        given=(
            Given(
                kind="value-scale",
                options={"steps": 9},
                medium=Medium.GOUACHE,
                level=Level.ADVANCED,
                key=Key.OWN_ENDS,
                week=4,
                handed_in=0.9,
                reviewed=0.7,
            ),
            Given(
                kind="tint-ladder",
                options={"steps": 7, "tubes": ("crimson", "ultramarine", "cerulean")},
                medium=Medium.WATERCOLOUR,
                set_name="Watercolour pans",
                level=Level.INTERMEDIATE,
                key=Key.OWN_ENDS,
                week=6,
                handed_in=0.6,
                reviewed=0.0,
            ),
        ),
    ),
)


def hand_of(skill: float, week: int, attempt: int, rng: Generator) -> Hand:
    """Say how a student paints: `skill` 0..1, better by the week and much better in a redo."""
    practice = 0.86 ** (week - 2) * 0.62 ** (attempt - 1)
    noise = (0.12 + 0.75 * (1.0 - skill)) * practice
    return Hand(
        step_noise=noise,
        bunching=float(rng.normal(0.0, 0.25) * practice),
        dark_end=float(max(0.0, rng.normal(0.2, 0.7)) * (1.0 - skill) * practice),
        missed=0.004 + 0.02 * (1.0 - skill),
        ragged_mm=0.3 + 0.5 * (1.0 - skill),
    )
