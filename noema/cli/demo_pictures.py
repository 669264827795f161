"""The demo's pictures: one of each of two classes, one of a student's, with spots in use."""

from collections.abc import Sequence
from dataclasses import dataclass

from sqlalchemy.orm import Session

from noema.actions.paint_from import NewSpot, point, take_scene
from noema.actions.practise import paints_of
from noema.actions.rank_tubes import ask_for_tubes, rank_next
from noema.actions.read_held import hold, read_held
from noema.core.pictures.spots import USUAL_RADIUS, SpotPart
from noema.devices.file_store import FileStore
from noema.stand_ins.held import photograph_of_dab
from noema.store.assignments import assignments_of_class
from noema.store.classes import classes_of_school
from noema.store.paints import hue_words
from noema.store.pictures import PictureOwner, picture_by_id
from noema.store.students import card_holders_of_class

_Spot = tuple[float, float, str, SpotPart]


@dataclass(frozen=True, kw_only=True)
class _DemoPicture:
    scene: str
    spots: tuple[_Spot, ...]
    of_student: bool = False


_WHOLE, _LIGHT, _SHADOW = SpotPart.WHOLE, SpotPart.LIGHT, SpotPart.SHADOW
_PICTURES = (
    _DemoPicture(
        scene="harbour",
        spots=(
            (0.3, 0.8, "the red boat", _WHOLE),
            (0.3, 0.6, "the sail", _WHOLE),
            (0.8, 0.2, "the sky", _WHOLE),
            (0.76, 0.72, "the green boat", _WHOLE),
            (0.035, 0.38, "the yellow house", _LIGHT),
            (0.128, 0.47, "the yellow house", _SHADOW),
        ),
    ),
    _DemoPicture(
        scene="still-life",
        spots=(
            (0.17, 0.72, "the orange", _LIGHT),
            (0.25, 0.8, "the orange", _SHADOW),
            (0.62, 0.5, "the jug", _LIGHT),
            (0.79, 0.55, "the jug", _SHADOW),
            (0.12, 0.9, "the cloth", _WHOLE),
        ),
    ),
    _DemoPicture(
        scene="hedge",
        of_student=True,
        spots=(
            (0.25, 0.35, "the hedge", _LIGHT),
            (0.2, 0.68, "the hedge", _SHADOW),
            (0.62, 0.62, "the path", _LIGHT),
            (0.62, 0.76, "the path", _SHADOW),
        ),
    ),
)
_DAB = (46.0, 38.0, 22.0)  # held against the first spot: somebody's red, a little too grey


def fill_pictures(session: Session, files: FileStore, school_id: int) -> None:
    """Give the classes pictures, in order, and have them looked through."""
    table = hue_words(session, school_id).table
    classes = sorted(classes_of_school(session, school_id), key=lambda row: row.id)
    for row, told in zip(classes, _by_class(), strict=False):
        given = paints_of(session, assignments_of_class(session, row.id))
        for one in told:
            student = card_holders_of_class(session, row.id)[0] if one.of_student else None
            owner = PictureOwner(
                school_id=school_id,
                class_id=row.id,
                student_id=None if student is None else student.id,
            )
            number = take_scene(session, files, owner, one.scene)
            picture = picture_by_id(session, number)
            assert picture is not None
            spots = [
                point(session, files, picture, owner, _new(spot), given, table)
                for spot in one.spots
            ]
            ask_for_tubes(session, picture, given)
            while rank_next(session, files, number):
                pass
            if one is _PICTURES[0]:
                _hold_a_dab(session, files, owner, spots[0])


def _by_class() -> Sequence[Sequence[_DemoPicture]]:
    """Give each class its pictures, in the order in which classes are listed."""
    harbour, still_life, hedge = _PICTURES
    return ((harbour, hedge), (still_life,))


def _new(spot: _Spot) -> NewSpot:
    x, y, name, part = spot
    return NewSpot(name=name, part=part, x=x, y=y, radius=USUAL_RADIUS)


def _hold_a_dab(session: Session, files: FileStore, owner: PictureOwner, spot_id: int) -> None:
    held_id = hold(session, files, owner, spot_id, photograph_of_dab(_DAB, seed=7).jpeg)
    read_held(session, files, held_id)
