"""noema mix: what mixes of tubes look like, dry and opaque."""

from pathlib import Path

import click
import orjson

from noema.core.colour.hvc import HVC, hvcs_of
from noema.core.colour.names import USUAL_HUES, chroma_word, value_word
from noema.core.errors import BadPaint
from noema.core.pigments.mix import Part, lab_of_parts
from noema.core.pigments.shelf import SETS, TUBES, PaintSet, builtin_set, is_builtin_set
from noema.formats.hvc_json import hvc_to_json
from noema.formats.mix_text import mix_from_text
from noema.formats.set_json import set_from_json


@click.command("mix")
@click.option("--set", "set_name", default="all", help="A built-in set, NAME+black, or a file.")
@click.option("--json", "as_json", is_flag=True, help="One JSON object a line.")
@click.option("--list", "listing", is_flag=True, help="Name the built-in sets and tubes.")
@click.argument("mixes", nargs=-1)
def command(set_name: str, as_json: bool, listing: bool, mixes: tuple[str, ...]) -> None:
    """Mix tubes by volume as squeezed, such as "lemon-yellow:4, phthalo-blue:1"."""
    if listing:
        return _list()
    if not mixes:
        raise click.UsageError('Name at least one mix, such as "lemon-yellow:4, phthalo-blue:1".')
    paints = paint_set(set_name)
    read = [_mix(text, number, paints) for number, text in enumerate(mixes, start=1)]
    labs = [lab_of_parts(parts, paints.binder.dry) for parts in read]
    for text, lab, hvc in zip(mixes, labs, hvcs_of(labs), strict=True):
        click.echo(_json(text, lab.tolist(), hvc) if as_json else _words(text, hvc))
    return None


def paint_set(name: str) -> PaintSet:
    """Find a set by its built-in name, else read it from a file."""
    if is_builtin_set(name):
        return builtin_set(name)
    file = Path(name)
    if file.suffix == ".json" or file.exists():
        return set_from_json(file.read_bytes())
    return builtin_set(name)


def _mix(text: str, number: int, paints: PaintSet) -> tuple[Part, ...]:
    try:
        return mix_from_text(text, paints)
    except BadPaint as wrong:
        raise BadPaint(f"mix {number}, {wrong}") from wrong


def _json(text: str, lab: list[float], hvc: HVC) -> str:
    line = {
        "mix": text,
        "lab": [round(number, 3) for number in lab],
        "hvc": hvc_to_json(hvc),
        "lean": USUAL_HUES.lean(hvc).words,
    }
    return orjson.dumps(line).decode()


def _words(text: str, hvc: HVC) -> str:
    numbers = f"{hvc.notation} {hvc.value:.1f}/{hvc.chroma:.1f}"
    said = f"{USUAL_HUES.lean(hvc).words}; {value_word(hvc.value)}, {chroma_word(hvc.chroma)}"
    return f"{text}: {numbers}  {said}"


def _list() -> None:
    for name, paints in SETS.items():
        click.echo(f"{name}: {', '.join(tube.name for tube in paints.tubes)}")
    click.echo("each also as NAME+black; all: every tube")
    for name, tube in TUBES.items():
        click.echo(f"  {name} ({', '.join(tube.pigments)})")
