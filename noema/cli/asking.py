"""Options that `noema sheet` and `noema expect` share, and the exercise they ask for."""

from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path

import click

from noema.cli.mix import paint_set
from noema.core.colour.names import USUAL_HUES
from noema.core.exercises.asked import Asked, Ground, Wanted
from noema.core.exercises.catalogue import kind_of
from noema.core.exercises.kind import Kind
from noema.core.exercises.levels import Key
from noema.core.exercises.value_scale import KIND
from noema.core.pigments.shelf import PaintSet
from noema.formats.measurements import samples_from_bytes

USUAL_SET = "split-six+black"

_EVEN = "even"

_OPTIONS = (
    click.option("--set", "set_name", default=None, help="A built-in set, NAME+black, or a file."),
    click.option("--steps", type=int, default=None),
    click.option("--hue", default=None, help="A hue's name or a tube's."),
    click.option("--hues", type=int, default=None, help="6, 12 or 24."),
    click.option("--primaries", type=int, default=None, help="3, or 6 for a warm and a cool."),
    click.option("--ring", "rings", multiple=True, help="none, tint-in, tint-out, neutral-1 …"),
    click.option("--tubes", default="", help="Names with commas between."),
    click.option("--pairs", default="", help="red-green,yellow-violet … or TUBE:TUBE."),
    click.option("--tints", is_flag=True, help="A tint under every mix."),
    click.option("--sides", is_flag=True, help="The neutral mixed from either side."),
    click.option("--full", is_flag=True, help="Both halves of a grid."),
    click.option("--anticlockwise", is_flag=True, help="Which way a wheel runs."),
    click.option("--targets", type=click.Path(path_type=Path), help="A file of Lab values."),
    click.option("--count", type=int, default=None, help="Colours to match, 4 to 12."),
    click.option(
        "--key",
        type=click.Choice([*(key.value for key in Key), _EVEN]),
        default=Key.PAINTS.value,
        help="What cells are held against; `even` is another word for `named`.",
    ),
)


@dataclass(frozen=True, kw_only=True)
class Question:
    """What a command was asked."""

    kind: Kind
    wanted: Wanted
    paints: PaintSet
    named_set: bool  # a set was named, rather than taken as usual
    key: Key

    @property
    def is_plain_scale(self) -> bool:
        """Whether it is the grey scale of fixed steps, which needs no paint set."""
        only_steps = set(self.wanted.given()) <= {"steps"}
        return self.kind.name == KIND and only_steps and not self.named_set

    def asked(self) -> Asked:
        """Work the exercise out."""
        ground = Ground(paints=self.paints, table=USUAL_HUES, key=self.key)
        return self.kind.asked(self.wanted, ground)


def exercise_options(command: Callable[..., None]) -> Callable[..., None]:
    """Give a command every exercise's options."""
    for option in reversed(_OPTIONS):
        command = option(command)
    return command


def question_of(
    kind: str,
    *,
    set_name: str | None,
    steps: int | None,
    hue: str | None,
    hues: int | None,
    primaries: int | None,
    rings: tuple[str, ...],
    tubes: str,
    pairs: str,
    tints: bool,
    sides: bool,
    full: bool,
    anticlockwise: bool,
    targets: Path | None,
    count: int | None,
    key: str,
) -> Question:
    """Read the options of an exercise."""
    labs = () if targets is None else samples_from_bytes(targets.read_bytes())
    wanted = Wanted(
        steps=steps,
        hue=None if hue == "neutral" else hue,
        hues=hues,
        primaries=primaries,
        rings=rings,
        tubes=_names(tubes),
        pairs=_names(pairs),
        tints=tints,
        sides=sides,
        full=full,
        anticlockwise=anticlockwise,
        targets=tuple(sample.lab for sample in labs),
        count=count,
    )
    return Question(
        kind=kind_of(kind),
        wanted=wanted,
        paints=paint_set(set_name or USUAL_SET),
        named_set=set_name is not None,
        key=Key.NAMED if key == _EVEN else Key(key),
    )


def _names(text: str) -> tuple[str, ...]:
    return tuple(name.strip() for name in text.split(",") if name.strip())
