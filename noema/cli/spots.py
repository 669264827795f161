"""noema spots: the colour of places in a picture, and what a set's tubes would need for it."""

from pathlib import Path

import click
import orjson

from noema.cli.mix import paint_set
from noema.cli.picture_colours import opened_picture
from noema.core.colour.names import USUAL_HUES, colour_words
from noema.core.errors import Refused
from noema.core.pictures.spots import PictureSpot, spot_at
from noema.core.pigments.says import say_left, say_parts
from noema.formats.hvc_json import hvc_to_json


@click.command("spots")
@click.argument("picture", type=click.Path(path_type=Path, dir_okay=False, exists=True))
@click.argument("places", nargs=-1, required=True)
@click.option("--set", "set_name", required=True, help="A built-in set, NAME+black, or a file.")
@click.option("--json", "as_json", is_flag=True, help="One JSON object a line.")
def command(picture: Path, places: tuple[str, ...], set_name: str, as_json: bool) -> None:
    """Look at PLACES of PICTURE, each "x,y" as shares of width and height."""
    paints, colours = paint_set(set_name), opened_picture(picture)
    for place in places:
        x, y = _place(place)
        spot = spot_at(colours, x, y, paints)
        click.echo(orjson.dumps(_told(spot)) if as_json else _words(spot))


def _place(text: str) -> tuple[float, float]:
    try:
        x, y = (float(part) for part in text.split(","))
    except ValueError as wrong:
        raise Refused(f"“{text[:40]}” is no place: write two shares, such as 0.25,0.6.") from wrong
    return x, y


def _words(spot: PictureSpot) -> str:
    return f"{colour_words(spot.hvc, USUAL_HUES)}: {say_parts(spot.recipe.parts)}"


def _told(spot: PictureSpot) -> dict[str, object]:
    made = spot.recipe
    return {
        "place": [spot.x, spot.y],
        "lab": [round(part, 3) for part in spot.lab],
        "hvc": hvc_to_json(spot.hvc),
        "recipe": {
            "parts": {part.tube.name: part.amount for part in made.parts},
            "words": say_parts(made.parts),
            "lab": [round(part, 3) for part in made.lab],
        },
        "reach": {"de": round(made.away, 3), "words": say_left(made, USUAL_HUES)},
    }
