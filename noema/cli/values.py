"""noema values: how dark and light a picture is."""

from pathlib import Path

import click
import orjson

from noema.cli.picture_colours import opened_picture
from noema.core.pictures.values import STEPS, value_plan


@click.command("values")
@click.argument("picture", type=click.Path(path_type=Path, dir_okay=False, exists=True))
@click.option("--steps", type=click.Choice([str(n) for n in STEPS]), default="5")
@click.option("--json", "as_json", is_flag=True, help="One JSON object.")
def command(picture: Path, steps: str, as_json: bool) -> None:
    """Print the share of each value of PICTURE, and where it is darkest and lightest."""
    plan = value_plan(opened_picture(picture), int(steps))
    if not as_json:
        for one in plan.shares:
            click.echo(f"value {one.lowest:4.1f} to {one.highest:4.1f}: {one.share:6.1%}")
        return
    click.echo(
        orjson.dumps(
            {
                "shares": [
                    {"value": [one.lowest, one.highest], "share": round(one.share, 5)}
                    for one in plan.shares
                ],
                "darkest": [round(part, 4) for part in plan.darkest],
                "lightest": [round(part, 4) for part in plan.lightest],
            }
        )
    )
