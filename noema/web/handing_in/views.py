"""Handing in photographs: dropped in a pile, read while one watches, matched where needed."""

from dataclasses import dataclass
from datetime import UTC, datetime

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from noema.actions.hand_in_photo import HandedIn, hand_in_file
from noema.actions.match_photograph import match_photograph, set_aside
from noema.core.errors import Refused
from noema.core.progress.states import PhotoState
from noema.store.photographs import (
    PhotoRow,
    add_pile,
    newest_pile,
    photos_in_tray,
    photos_of_pile,
    pile_of_school,
)
from noema.store.printers import OwnedCard, card_of_school, cards_of_school
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, files, me

handing_in = Blueprint("handing_in", __name__)

MOST_PHOTOS = 40


@dataclass(frozen=True, kw_only=True)
class PileView:
    """A pile and how far its reading is."""

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
    pile: PileView | None
    tray: tuple[PhotoRow, ...]
    refused: tuple[HandedIn, ...] = ()
    known: tuple[HandedIn, ...] = ()
    cards: tuple[OwnedCard, ...] = ()  # one of which may lie beside the sheets
    most: int = MOST_PHOTOS


@dataclass(frozen=True, kw_only=True)
class PilePage:
    """The fragment that is fetched again while photographs are read."""

    pile: PileView


@handing_in.get("/photograph")
def photograph() -> str:
    """Show the drop place, the last pile and the tray."""
    pile_id = request.args.get("pile", type=int)
    if pile_id is None:
        pile_id = newest_pile(db(), me().school_id, me().id)
    else:
        pile_of_school(db(), me().school_id, pile_id)
    return render_template("handing_in/photograph.html", page=_page(pile_id))


@handing_in.post("/photograph")
def hand_in() -> Response | tuple[str, int]:
    """Take photographs in; what can't be taken is named and the others go on."""
    sent = [file for file in request.files.getlist("photos") if file.filename]
    if not 1 <= len(sent) <= MOST_PHOTOS:
        raise Refused(f"Choose 1 to {MOST_PHOTOS} photographs.")
    given = request.form.get("pile", type=int)
    pile_id = pile_of_school(db(), me().school_id, given) if given else _new_pile()
    outcomes = [
        outcome
        for file in sent
        for outcome in hand_in_file(
            db(),
            files(),
            school_id=me().school_id,
            pile_id=pile_id,
            name=file.filename or "",
            data=file.read(),
            received_at=datetime.now(UTC),
        )
    ]
    refused = tuple(outcome for outcome in outcomes if outcome.refused)
    known = tuple(outcome for outcome in outcomes if outcome.known)
    if refused or known:
        page = _page(pile_id, refused, known)
        return render_template("handing_in/photograph.html", page=page), 200
    return redirect(url_for("handing_in.photograph", pile=pile_id), 303)


@handing_in.post("/piles")
def begin_pile() -> tuple[dict[str, int], int]:
    """Begin a pile whose photographs come one by one."""
    return {"pile": _new_pile()}, 201


@handing_in.post("/piles/<int:pile_id>/photos")
def add_to_pile(pile_id: int) -> tuple[dict[str, str], int]:
    """Take one photograph of a pile; the answer says in a word and a sentence what became of it."""
    pile_of_school(db(), me().school_id, pile_id)
    file = request.files.get("photo")
    if file is None:
        raise Refused("Send one photograph as “photo”.")
    outcomes = hand_in_file(
        db(),
        files(),
        school_id=me().school_id,
        pile_id=pile_id,
        name=file.filename or "",
        data=file.read(),
        received_at=datetime.now(UTC),
    )
    refused = " ".join(outcome.refused for outcome in outcomes if outcome.refused)
    if refused:
        return {"state": "refused", "words": refused}, 200
    outcome = outcomes[0]
    return {"state": "known" if outcome.known else "kept", "words": _known_words(outcome)}, 200


@handing_in.get("/piles/<int:pile_id>")
def pile(pile_id: int) -> str:
    """Give the pile's fragment."""
    page = PilePage(pile=_pile(pile_of_school(db(), me().school_id, pile_id)))
    return render_template("handing_in/pile.html", page=page)


@handing_in.post("/photographs/<int:photograph_id>/match")
def match(photograph_id: int) -> Response:
    """Say whose sheet it is."""
    match_photograph(
        db(),
        school_id=me().school_id,
        teacher_id=me().id,
        photograph_id=photograph_id,
        sheet_id=request.form.get("sheet", 0, type=int),
    )
    return redirect(url_for("handing_in.photograph"), 303)


@handing_in.post("/photographs/<int:photograph_id>/set-aside")
def put_aside(photograph_id: int) -> Response:
    """Take it out of the tray."""
    set_aside(db(), school_id=me().school_id, teacher_id=me().id, photograph_id=photograph_id)
    return redirect(url_for("handing_in.photograph"), 303)


def _new_pile() -> int:
    card_id = request.form.get("card", type=int)
    if card_id is not None:
        card_of_school(db(), me().school_id, card_id)
    return add_pile(db(), me().school_id, me().id, card_id)


def _page(
    pile_id: int | None, refused: tuple[HandedIn, ...] = (), known: tuple[HandedIn, ...] = ()
) -> PhotographPage:
    return PhotographPage(
        frame=frame(Stage.PHOTOGRAPH),
        pile=None if pile_id is None else _pile(pile_id),
        tray=photos_in_tray(db(), me().school_id),
        refused=refused,
        known=known,
        cards=cards_of_school(db(), me().school_id),
    )


def _pile(pile_id: int) -> PileView:
    photos = photos_of_pile(db(), pile_id)
    done = sum(photo.state is not PhotoState.READING for photo in photos)
    return PileView(id=pile_id, photos=photos, done=done)


def _known_words(outcome: HandedIn) -> str:
    if not outcome.known or outcome.photo is None:
        return ""
    whose = f" It is {outcome.photo.student}'s." if outcome.photo.student else ""
    return f"The same photograph was handed in before.{whose}"
