"""Handing in photographs: dropped in a batch, read while one watches, matched where needed."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import UTC, datetime

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions.hand_in_photo import HandedIn, hand_in_file
from noema.actions.match_photograph import match_photograph, set_aside
from noema.actions.read_photograph import stumbled
from noema.core.errors import Refused
from noema.core.language import gettext
from noema.core.progress.states import PhotoState
from noema.formats.photo_file import MOST_BYTES
from noema.store.photographs import (
    PhotoRow,
    add_batch,
    batch_of_school,
    newest_batch,
    photo_of_school,
    photos_in_tray,
    photos_of_batch,
)
from noema.store.printers import OwnedCard, card_of_school, cards_of_school
from noema.web.frame.forms import SentFile, SentFiles, Whole, read_form
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, files, me

handing_in = Blueprint("handing_in", __name__)

MOST_PHOTOS = 40


@dataclass(frozen=True, kw_only=True)
class BatchView:
    """A batch and how far its reading is."""

    id: int
    photos: tuple[PhotoRow, ...]
    done: int

    @property
    def busy(self) -> bool:
        """Whether photographs are still being read."""
        return self.done < len(self.photos)


@dataclass(frozen=True, kw_only=True)
class PhotographPage:
    """The page where photographs are dropped."""

    frame: Frame
    batch: BatchView | None
    tray: tuple[PhotoRow, ...]
    stumbled: int  # of these, by Noema itself
    refused: tuple[HandedIn, ...] = ()
    known: tuple[HandedIn, ...] = ()
    cards: tuple[OwnedCard, ...] = ()  # one of which may lie beside the sheets
    most: int = MOST_PHOTOS


@dataclass(frozen=True, kw_only=True)
class BatchPage:
    """The fragment that is fetched again while photographs are read."""

    batch: BatchView


class HandInForm(Form):
    """Photographs at once, perhaps of a batch that has begun, perhaps beside a card."""

    photos = SentFiles()
    batch = Whole()
    card = Whole()


class OnePhotoForm(Form):
    """One photograph of a batch."""

    photo = SentFile(MOST_BYTES)


class BatchForm(Form):
    """A batch that begins, perhaps beside a card."""

    card = Whole()


class MatchForm(Form):
    """Whose sheet it is."""

    sheet = Whole()


@handing_in.get("/photograph")
def photograph() -> str:
    """Show the drop place, the last batch and the tray."""
    batch_id = request.args.get("batch", type=int)
    if batch_id is None:
        batch_id = newest_batch(db(), me().school_id, me().id)
    else:
        batch_of_school(db(), me().school_id, batch_id)
    return render_template("handing_in/photograph.html", page=_page(batch_id))


@handing_in.post("/photograph")
def hand_in() -> Response | tuple[str, int]:
    """Take photographs in; what can't be taken is named and the others go on."""
    given = read_form(HandInForm)
    photos = given.photos.files
    if not 1 <= len(photos) <= MOST_PHOTOS:
        raise Refused(gettext("Choose 1 to %(most_photos)s photographs.", most_photos=MOST_PHOTOS))
    if given.batch.data:
        batch_id = batch_of_school(db(), me().school_id, given.batch.data)
    else:
        batch_id = _new_batch(given.card.data)
    outcomes = [
        outcome
        for file in photos
        for outcome in _handed_in(batch_id, file.filename or "", file.read())
    ]
    return _taken(batch_id, outcomes)


@handing_in.post("/batches")
def begin_batch() -> tuple[dict[str, int], int]:
    """Begin a batch whose photographs come one by one."""
    return {"batch": _new_batch(read_form(BatchForm).card.data)}, 201


@handing_in.post("/batches/<int:batch_id>/photos")
def add_to_batch(batch_id: int) -> tuple[dict[str, str], int]:
    """Take one photograph of a batch; the answer says in a word and a sentence what came of it."""
    batch_of_school(db(), me().school_id, batch_id)
    photo = read_form(OnePhotoForm).photo
    if photo.data is None:
        raise Refused(gettext("Send one photograph as “photo”."))
    outcomes = _handed_in(batch_id, photo.file_name, photo.bytes)
    refused = " ".join(outcome.refused for outcome in outcomes if outcome.refused)
    if refused:
        return {"state": "refused", "words": refused}, 200
    outcome = outcomes[0]
    return {"state": "known" if outcome.known else "kept", "words": _known_words(outcome)}, 200


@handing_in.get("/batches/<int:batch_id>")
def batch(batch_id: int) -> str:
    """Give the batch's fragment."""
    page = BatchPage(batch=_pile(batch_of_school(db(), me().school_id, batch_id)))
    return render_template("handing_in/batch.html", page=page)


@handing_in.post("/photographs/<int:photograph_id>/another")
def another(photograph_id: int) -> Response | tuple[str, int]:
    """Take another picture of a photograph's sheet: both are read together."""
    photo_of_school(db(), me().school_id, photograph_id)
    photo = read_form(OnePhotoForm).photo
    if photo.data is None:
        raise Refused(gettext("Choose another picture of this sheet first."))
    batch_id = add_batch(db(), me().school_id, me().id, another_of=photograph_id)
    return _taken(batch_id, _handed_in(batch_id, photo.file_name, photo.bytes))


@handing_in.post("/photographs/<int:photograph_id>/match")
def match(photograph_id: int) -> Response:
    """Say whose sheet it is."""
    match_photograph(
        db(),
        school_id=me().school_id,
        teacher_id=me().id,
        photograph_id=photograph_id,
        sheet_id=read_form(MatchForm).sheet.data or 0,
    )
    return redirect(url_for("handing_in.photograph"), 303)


@handing_in.post("/photographs/<int:photograph_id>/set-aside")
def put_aside(photograph_id: int) -> Response:
    """Take it out of the tray."""
    set_aside(db(), school_id=me().school_id, teacher_id=me().id, photograph_id=photograph_id)
    return redirect(url_for("handing_in.photograph"), 303)


def _handed_in(batch_id: int, name: str, data: bytes) -> tuple[HandedIn, ...]:
    return hand_in_file(
        db(),
        files(),
        school_id=me().school_id,
        batch_id=batch_id,
        name=name,
        data=data,
        received_at=datetime.now(UTC),
    )


def _taken(batch_id: int, outcomes: Sequence[HandedIn]) -> Response | tuple[str, int]:
    """Show the batch; where something couldn't be taken, say what and why."""
    refused = tuple(outcome for outcome in outcomes if outcome.refused)
    known = tuple(outcome for outcome in outcomes if outcome.known)
    if refused or known:
        page = _page(batch_id, refused, known)
        return render_template("handing_in/photograph.html", page=page), 200
    return redirect(url_for("handing_in.photograph", batch=batch_id), 303)


def _new_batch(card_id: int | None) -> int:
    if card_id is not None:
        card_of_school(db(), me().school_id, card_id)
    return add_batch(db(), me().school_id, me().id, card_id)


def _page(
    batch_id: int | None, refused: tuple[HandedIn, ...] = (), known: tuple[HandedIn, ...] = ()
) -> PhotographPage:
    return PhotographPage(
        frame=frame(Stage.PHOTOGRAPH),
        batch=None if batch_id is None else _pile(batch_id),
        tray=photos_in_tray(db(), me().school_id),
        stumbled=stumbled(db(), me().school_id),
        refused=refused,
        known=known,
        cards=cards_of_school(db(), me().school_id),
    )


def _pile(batch_id: int) -> BatchView:
    photos = photos_of_batch(db(), batch_id)
    done = sum(photo.state is not PhotoState.READING for photo in photos)
    return BatchView(id=batch_id, photos=photos, done=done)


def _known_words(outcome: HandedIn) -> str:
    if not outcome.known or outcome.photo is None:
        return ""
    before = gettext("The same photograph was handed in before.")
    if not outcome.photo.student:
        return before
    whose = gettext("It is %(student)s's.", student=outcome.photo.student)
    return f"{before} {whose}"
