"""Whose sheet a photograph shows: looked for by name, code, class or exercise."""

from dataclasses import dataclass

from flask import Blueprint, render_template, request

from noema.store.photographs import PhotoRow, photo_of_school
from noema.store.sheets import FoundSheet, find_sheets, likely_sheets
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me

finding = Blueprint("finding", __name__)

MOST_FOUND, MOST_LIKELY = 12, 6
_MOST_LETTERS = 80


@dataclass(frozen=True, kw_only=True)
class FoundPage:
    """The sheets that were found; the part that is fetched again while one types."""

    photo: PhotoRow
    words: str
    found: tuple[FoundSheet, ...]
    most: int = MOST_FOUND


@dataclass(frozen=True, kw_only=True)
class FindingPage(FoundPage):
    """The whole page."""

    frame: Frame


@finding.get("/photographs/<int:photograph_id>/whose")
def whose(photograph_id: int) -> str:
    """Look for the sheet a photograph shows; without words, the likeliest come first."""
    photo = photo_of_school(db(), me().school_id, photograph_id)
    words = request.args.get("words", "")[:_MOST_LETTERS].strip()
    found = (
        find_sheets(db(), me().school_id, words, MOST_FOUND)
        if words
        else likely_sheets(db(), photo, MOST_LIKELY)
    )
    if "HX-Request" in request.headers:
        page = FoundPage(photo=photo, words=words, found=found)
        return render_template("handing_in/found_sheets.html", page=page)
    page = FindingPage(frame=frame(Stage.PHOTOGRAPH), photo=photo, words=words, found=found)
    return render_template("handing_in/finding.html", page=page)
