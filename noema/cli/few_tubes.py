"""noema few-tubes: which few tubes of a set would do for a picture."""

from pathlib import Path

import click
import orjson

from noema.cli.mix import paint_set
from noema.cli.picture_colours import opened_picture
from noema.core.colour.names import USUAL_HUES
from noema.core.pictures.colours import shares_of_colours
from noema.core.pictures.few_tubes import few_tubes
from noema.formats.photo_file import may_be_photographed


@click.command("few-tubes")
@click.argument("picture", type=click.Path(path_type=Path, dir_okay=False, exists=True))
@click.option("--set", "set_name", required=True, help="A built-in set, NAME+black, or a file.")
@click.option("--tubes", type=click.IntRange(2, 4), default=2, help="Beside white.")
@click.option("--json", "as_json", is_flag=True, help="One JSON object.")
def command(picture: Path, set_name: str, tubes: int, as_json: bool) -> None:
    """Rank choices of tubes by how much of PICTURE they reach; white is always added."""
    shares = shares_of_colours(opened_picture(picture))
    by_camera = may_be_photographed(picture.read_bytes())
    paints = paint_set(set_name)
    ranked = few_tubes(shares, paints, tubes, USUAL_HUES, photographed=by_camera)
    if not as_json:
        for one in ranked:
            names = ", ".join(tube.label for tube in one.tubes)
            click.echo(f"{one.share_within:5.0%}  {one.median_de:4.1f}  {names}  {one.lost}")
        return
    told = [
        {
            "tubes": [tube.name for tube in one.tubes],
            "share_within": round(one.share_within, 4),
            "median_de": round(one.median_de, 3),
            "lost": one.lost,
        }
        for one in ranked
    ]
    click.echo(orjson.dumps({"ranked": told}))
