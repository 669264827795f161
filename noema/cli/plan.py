"""noema plan FRAME.json: lessons, the rack, due dates and what can't be met, as JSON."""

import json
from pathlib import Path

import click

from noema.cli.mix import paint_set
from noema.core.pigments.shelf import PaintSet
from noema.core.planning.asking import USUAL_PAINTS, Workshop
from noema.core.planning.plan import FRESH, plan, rack_beside
from noema.core.planning.usual import USUAL
from noema.core.planning.ways import Trying, unmet_of
from noema.formats.frame_json import frame_from_json
from noema.formats.options_json import options_from_json
from noema.formats.plan_json import plan_to_json


@click.command("plan")
@click.argument("frame_file", type=click.Path(path_type=Path))
@click.option("--json", "as_json", is_flag=True, help="Print JSON (the only form there is).")
def command(frame_file: Path, as_json: bool) -> None:
    """Plan the lessons of a frame."""
    frame = frame_from_json(frame_file.read_bytes())
    shop = Workshop(paints_of=_paints, options_of=options_from_json)
    plans = plan(frame, shop.work)
    unmet = [
        one
        for class_id, own in plans.items()
        for one in unmet_of(
            Trying(
                frame=frame,
                work_of_wish=shop.work,
                usual=USUAL,
                earlier=FRESH,
                rack=rack_beside(frame, frame.class_of(class_id), plans),
            ),
            own,
        )
    ]
    click.echo(json.dumps(plan_to_json(frame, plans, unmet), ensure_ascii=False))


def _paints(name: str | None) -> PaintSet:
    return paint_set(name or USUAL_PAINTS)
