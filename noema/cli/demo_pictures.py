"""The demo's pictures to paint from, with spots in use."""

from collections.abc import Sequence

from sqlalchemy.orm import Session

from noema.actions.paint_from import NewSpot, point, take_scene
from noema.actions.practise import paints_of
from noema.actions.rank_tubes import ask_for_tubes, rank_next
from noema.actions.read_held import hold, read_held
from noema.core.pictures.spots import USUAL_RADIUS
from noema.devices.file_store import FileStore
from noema.stand_ins.held import photograph_of_dab
from noema.stand_ins.saltmarsh import DemoPicture, DemoSpot
from noema.store.assignments import assignments_of_class
from noema.store.paints import hue_words
from noema.store.pictures import PictureOwner, picture_by_id
from noema.store.students import card_holders_of_class

_DAB = (46.0, 38.0, 22.0)  # held against the first spot: somebody's red, a little too grey


def fill_pictures(
    session: Session,
    files: FileStore,
    school_id: int,
    class_id: int,
    pictures: Sequence[DemoPicture],
) -> None:
    """Give a class its pictures, and have them looked through."""
    if not pictures:
        return
    table = hue_words(session, school_id).table
    given = paints_of(session, assignments_of_class(session, class_id))
    for one in pictures:
        student = card_holders_of_class(session, class_id)[0] if one.of_student else None
        owner = PictureOwner(
            school_id=school_id,
            class_id=class_id,
            student_id=None if student is None else student.id,
        )
        number = take_scene(session, files, owner, one.scene)
        picture = picture_by_id(session, number)
        assert picture is not None
        spots = [
            point(session, files, picture, owner, _new(spot), given, table) for spot in one.spots
        ]
        ask_for_tubes(session, picture, given)
        while rank_next(session, files, number):
            pass
        if one.holds_a_dab:
            _hold_a_dab(session, files, owner, spots[0])


def _new(spot: DemoSpot) -> NewSpot:
    x, y, name, part = spot
    return NewSpot(name=name, part=part, x=x, y=y, radius=USUAL_RADIUS)


def _hold_a_dab(session: Session, files: FileStore, owner: PictureOwner, spot_id: int) -> None:
    held_id = hold(session, files, owner, spot_id, photograph_of_dab(_DAB, seed=7).jpeg)
    read_held(session, files, held_id)
