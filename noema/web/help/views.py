"""Help: three sentences and a picture for the page one is on, and the guide they are from."""

from collections.abc import Mapping
from dataclasses import dataclass

from flask import Blueprint, Response, render_template, request, send_from_directory

from noema.core.errors import NotFound
from noema.core.language import gettext
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import the_student
from noema.web.help.guides import PICTURES, Chapter, chapter_of, guides, said_in

helping = Blueprint("helping", __name__)
own_help = Blueprint("own_help", __name__)

_TEACHER, _STUDENT = "teacher", "student"
_BY_FEATURE: Mapping[str, str] = {
    "classes": "plan", "class_settings": "plan", "unit": "plan", "starting": "plan",
    "wish": "plan", "lesson": "plan", "lay_out": "plan", "wall": "plan", "cupboard": "plan",
    "cards": "plan", "assigning": "assign", "changing": "assign", "keys": "assign",
    "printing": "print", "printers": "print", "measuring": "print",
    "handing_in": "photograph", "aiming": "photograph", "again": "photograph",
    "finding": "photograph", "placing": "photograph",
    "reviewing": "review", "patterns": "review", "rubrics": "review", "returning": "return",
    "progress": "progress", "reports": "progress", "paints": "paints", "reaching": "paints",
    "exploring": "paints", "pairing": "paints", "asking": "paints", "swatching": "paints",
    "naming": "paints", "class_bench": "bench-eye-and-logbook",
    "class_logbook": "bench-eye-and-logbook", "class_pictures": "paint-from-a-picture",
    "records": "records",
}  # fmt: skip
"""Which chapter helps on a feature's pages."""

_OF_ADMINISTRATOR: Mapping[str, str] = {
    "people": "people",
    "erasure": "what-is-kept",
    "school": "a-school-of-your-own",
}
_OF_STUDENT: Mapping[str, str] = {
    "painting.handed_in": "what-you-see",
    "painting.progress": "what-you-see",
    "bench.of_mine": "practise",
    "bench.of_one": "practise",
    "eye.of_mine": "practise",
    "logbook.of_mine": "practise",
}
_FIRST = "the-first-week", "what-to-do"


@dataclass(frozen=True, kw_only=True)
class ShortPage:
    """One chapter in short; the part that is fetched into a page."""

    chapter: Chapter
    of_student: bool
    language: str  # the chapter's


@dataclass(frozen=True, kw_only=True)
class GuidePage:
    """A guide, whole."""

    frame: Frame | None
    name: str  # of the student who looks; empty for a teacher
    guide: str
    guides: tuple[str, ...]
    chapters: tuple[Chapter, ...]
    language: str  # the chapters'


@helping.get("/help")
def guide() -> str:
    """Show a guide; `of` says which page one comes from."""
    if "closes" in request.args:
        return render_template("help/closed.html")
    chosen, chapter = _chapter(request.args.get("of", ""))
    if "HX-Request" in request.headers:
        return render_template("help/short.html", page=_short(chapter, of_student=False))
    wanted = request.args.get("guide", chosen)
    if wanted not in guides():
        raise NotFound(gettext("There is no such guide: choose one of those offered."))
    page = GuidePage(
        frame=frame(Stage.NONE),
        name="",
        guide=wanted,
        guides=tuple(guides()),
        chapters=guides()[wanted],
        language=said_in(),
    )
    return render_template("help/guide.html", page=page)


@own_help.get("/me/help")
def own_guide() -> str:
    """Show the students' guide, or what helps on the page one comes from."""
    if "closes" in request.args:
        return render_template("help/closed.html")
    name = _OF_STUDENT.get(request.args.get("of", ""), _FIRST[1])
    chapter = chapter_of(_STUDENT, name)
    assert chapter is not None  # each that is named is there; a test looks
    if "HX-Request" in request.headers:
        return render_template("help/short.html", page=_short(chapter, of_student=True))
    page = GuidePage(
        frame=None,
        name=the_student().display_name,
        guide=_STUDENT,
        guides=(),
        chapters=guides()[_STUDENT],
        language=said_in(),
    )
    return render_template("help/own_guide.html", page=page)


@helping.get("/help/pictures/<name>.webp")
def picture(name: str) -> Response:
    """Give a picture of the guide."""
    return send_from_directory(PICTURES, f"{name}.webp")


@own_help.get("/me/help/pictures/<name>.webp")
def own_picture(name: str) -> Response:
    """Give a picture of the students' guide."""
    if name not in {one.picture for one in guides()[_STUDENT]}:
        raise NotFound(gettext("There is no such picture."))
    return send_from_directory(PICTURES, f"{name}.webp")


def _short(chapter: Chapter, *, of_student: bool) -> ShortPage:
    return ShortPage(chapter=chapter, of_student=of_student, language=said_in())


def _chapter(of: str) -> tuple[str, Chapter]:
    """Give the guide and the chapter that help on a page, by its endpoint."""
    feature = of.partition(".")[0]
    if feature in _OF_ADMINISTRATOR:
        found = chapter_of("administrator", _OF_ADMINISTRATOR[feature])
        assert found is not None
        return "administrator", found
    found = chapter_of(_TEACHER, _BY_FEATURE.get(feature, _FIRST[0]))
    assert found is not None
    return _TEACHER, found
