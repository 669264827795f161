"""Which few tubes do for a picture is asked for, and worked out by a job, pairs first."""

from sqlalchemy.orm import Session

from noema.actions.paint_from import colours_of_kept
from noema.actions.practise import BenchPaints, paints_from_json, paints_to_json
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.core.pictures.colours import shares_of_colours
from noema.core.pictures.few_tubes import FewTubes, few_tubes
from noema.core.pigments.tube import Role
from noema.devices.file_store import FileStore
from noema.formats.photo_file import may_be_photographed
from noema.store.base import Json
from noema.store.paints import hue_words
from noema.store.pictures import (
    KeptPicture,
    ask_ranking,
    keep_ranking,
    picture_by_id,
    rankings_of,
)
from noema.store.queue import queue_ranking

COUNTS = (2, 3, 4)
"""Tubes beside white."""

_KEPT = 12  # choices of each count


def ask_for_tubes(session: Session, picture: KeptPicture, given: BenchPaints) -> None:
    """Have the few tubes of a cupboard worked out for a picture, in place of what was found."""
    coloured = [tube for tube in given.paints.tubes if tube.role is not Role.WHITE]
    counts = [count for count in COUNTS if count <= len(coloured)]
    if not counts:
        raise Refused(gettext("Choose among at least two tubes beside white."))
    ask_ranking(session, picture.id, counts, paints_to_json(given))
    queue_ranking(session, picture.id)


def rank_next(session: Session, files: FileStore, picture_id: int) -> bool:
    """Work out the next of what was asked for; says whether there was any."""
    picture = picture_by_id(session, picture_id)
    if picture is None:
        return False
    wanted = [one for one in rankings_of(session, picture_id) if one.ranked is None]
    if not wanted:
        return False
    shares = shares_of_colours(colours_of_kept(files, picture))
    table = hue_words(session, picture.school_id).table
    one = wanted[0]
    by_camera = may_be_photographed(files.get(picture.sha256))
    paints = paints_from_json(one.paints).bench.paints
    ranked = few_tubes(shares, paints, one.count, table, photographed=by_camera)
    told = [_told(few) for few in ranked[:_KEPT]]
    keep_ranking(session, picture_id, one.count, one.paints, told)
    return True


def _told(few: FewTubes) -> Json:
    return {
        "tubes": [tube.name for tube in few.tubes],
        "share_within": round(few.share_within, 4),
        "median_de": round(few.median_de, 3),
        "lost": few.lost,
        "greys": few.greys,
    }
