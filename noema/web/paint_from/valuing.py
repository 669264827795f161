"""How dark and light a picture is, as it is shown."""

from dataclasses import dataclass

from flask import request
from wtforms import Form

from noema.actions.paint_from import colours_of_kept
from noema.core.colour.srgb import lab_to_hex
from noema.core.colour.value import value_to_lab
from noema.core.exercises.from_picture import PictureFacts
from noema.core.language import gettext, written
from noema.core.pictures.colours import shares_of_colours
from noema.core.pictures.values import STEPS, middle_values, same_values, value_plan
from noema.store.pictures import KeptPicture
from noema.web.frame.forms import TextLine, Whole, read_form
from noema.web.frame.page import Frame
from noema.web.frame.request import files
from noema.web.paint_from.desk import PictureDesk
from noema.web.paint_from.spotting import ExerciseLink, exercise_links

USUAL_STEPS = 3
_BAR = 100.0


class ValuesForm(Form):
    """Into how many values a picture is divided, and how it is looked at."""

    steps = Whole()
    look = TextLine(most=10)


@dataclass(frozen=True, kw_only=True)
class ValueLine:
    """One range of value."""

    range: str
    fill: str
    percent: str
    start: float
    width: float


@dataclass(frozen=True, kw_only=True)
class PlaceMark:
    """A place that is named over the picture."""

    x: float  # in the picture's pixels
    y: float
    label: str


@dataclass(frozen=True, kw_only=True)
class ValuesPage:
    """A picture in a few values."""

    frame: Frame | None
    desk: PictureDesk
    name: str
    picture: KeptPicture
    tab: str
    steps: int
    choices: tuple[int, ...]
    look: str
    lines: tuple[ValueLine, ...]
    marks: tuple[PlaceMark, ...]
    same: tuple[str, ...]
    exercises: tuple[ExerciseLink, ...]


def steps_asked() -> int:
    """Give into how many values an address divides a picture."""
    asked = read_form(ValuesForm, request.args).steps.data
    return asked if asked in STEPS else USUAL_STEPS


def values_page(desk: PictureDesk, picture: KeptPicture) -> ValuesPage:
    """Show a picture's values."""
    steps, look = steps_asked(), read_form(ValuesForm, request.args).look.data
    colours = colours_of_kept(files(), picture)
    plan = value_plan(colours, steps)
    pairs = same_values(shares_of_colours(colours), desk.table)
    marks = [(plan.darkest, gettext("darkest")), (plan.lightest, gettext("lightest"))]
    for letter, pair in zip("ABC", pairs, strict=False):
        marks += [(place, letter) for place in pair.places]
    lines, start = [], 0.0
    fills = lab_to_hex(value_to_lab(list(middle_values(steps))))
    for one, fill in zip(plan.shares, fills, strict=True):
        width = _BAR * one.share
        lines.append(
            ValueLine(
                range=gettext(
                    "value %(low)s to %(high)s",
                    low=written(one.lowest, ".3g"),
                    high=written(one.highest, ".3g"),
                ),
                fill=fill,
                percent=f"{one.share:.0%}",
                start=round(start, 2),
                width=round(width, 2),
            )
        )
        start += width
    values = tuple(one.mean for one in plan.shares if one.mean is not None)
    return ValuesPage(
        frame=desk.frame,
        desk=desk,
        name=desk.name,
        picture=picture,
        tab="values",
        steps=steps,
        choices=STEPS,
        look=look if look in ("grey", "squint", "colour") else "plan",
        lines=tuple(lines),
        marks=tuple(
            PlaceMark(
                x=round(x * picture.width_px, 1), y=round(y * picture.height_px, 1), label=label
            )
            for (x, y), label in marks
        ),
        same=tuple(
            gettext(
                "%(letter)s: %(one)s and %(other)s are the same value, %(value)s.",
                letter=letter,
                one=pair.hues[0],
                other=pair.hues[1],
                value=written(pair.value),
            )
            for letter, pair in zip("ABC", pairs, strict=False)
        ),
        exercises=exercise_links(desk, PictureFacts(values=values)),
    )
