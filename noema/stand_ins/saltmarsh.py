"""Saltmarsh Road School, which doesn't exist: its teachers, classes and how its students paint."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import time

from numpy.random import Generator

from noema.core.coaching.audience import Audience
from noema.core.exercises.levels import Key, Level
from noema.core.exercises.media import Medium
from noema.core.pictures.spots import SpotPart
from noema.stand_ins.painter import Hand

SCHOOL = "Saltmarsh Road School"
PASSWORD = "saltmarsh-demo"
TEACHERS = (("ines@saltmarsh.example", "Ines Marlow"), ("tobias@saltmarsh.example", "Tobias Renn"))
WEEK, UNIT_WEEKS = 6, 12
_AGAIN = 0.25  # of what was reviewed, that is done again


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


DemoSpot = tuple[float, float, str, SpotPart]
_WHOLE, _LIGHT, _SHADOW = SpotPart.WHOLE, SpotPart.LIGHT, SpotPart.SHADOW


@dataclass(frozen=True, kw_only=True)
class DemoPicture:
    """A picture to paint from, with spots in use."""

    scene: str
    spots: tuple[DemoSpot, ...]
    of_student: bool = False
    holds_a_dab: bool = False  # somebody's paint was held against its first spot


_HARBOUR = DemoPicture(
    scene="harbour",
    spots=(
        (0.3, 0.8, "the red boat", _WHOLE),
        (0.3, 0.6, "the sail", _WHOLE),
        (0.8, 0.2, "the sky", _WHOLE),
        (0.76, 0.72, "the green boat", _WHOLE),
        (0.035, 0.38, "the yellow house", _LIGHT),
        (0.128, 0.47, "the yellow house", _SHADOW),
    ),
    holds_a_dab=True,
)
_STILL_LIFE = DemoPicture(
    scene="still-life",
    spots=(
        (0.17, 0.72, "the orange", _LIGHT),
        (0.25, 0.8, "the orange", _SHADOW),
        (0.62, 0.5, "the jug", _LIGHT),
        (0.79, 0.55, "the jug", _SHADOW),
        (0.12, 0.9, "the cloth", _WHOLE),
    ),
)
_HEDGE = DemoPicture(
    scene="hedge",
    of_student=True,
    spots=(
        (0.25, 0.35, "the hedge", _LIGHT),
        (0.2, 0.68, "the hedge", _SHADOW),
        (0.62, 0.62, "the path", _LIGHT),
        (0.62, 0.76, "the path", _SHADOW),
    ),
)


@dataclass(frozen=True, kw_only=True)
class DemoClass:
    """A class in the story."""

    name: str
    audience: Audience  # whom sentences are for
    students: tuple[str, ...]
    given: tuple[Given, ...]
    lessons: str  # once a week, or every other
    unit: str  # one of the ready ones
    sees_at_once: bool = False  # readings, before they are reviewed
    missed: time | None = None  # of its lesson the week before that fell out
    pictures: tuple[DemoPicture, ...] = ()  # to paint from

    @property
    def photographs(self) -> int:
        """About how many are handed in, with those of redoing."""
        of_one = sum(one.handed_in * (1.0 + _AGAIN * one.reviewed) for one in self.given)
        return round(of_one * len(self.students))


def _names(text: str) -> tuple[str, ...]:
    return tuple(text.split(", "))


CLASSES = (
    DemoClass(
        name="Evening Painting",
        audience=Audience.ADULT,
        students=_names(
            "Agnes Holloway, Bertil Quaye, Corinne Dasch, Emrys Tull, Farida Lowe, "
            "Gil Anstey, Hedda Merrow, Joaquim Stell, Winifred Okoro"
        ),
        lessons="mon 18:30 100 B",
        unit="evening-watercolour",
        sees_at_once=True,
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
        lessons="tue 09:40 50",
        unit="first-term-gouache",
        missed=time(9, 40),
        pictures=(_HARBOUR, _HEDGE),
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
        lessons="wed 13:10 75 A",
        unit="six-weeks-acrylic",
        pictures=(_STILL_LIFE,),
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
