"""Options that `noema sheet`, `noema expect` and `noema judge` share, derived from the kinds."""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from pathlib import Path
from typing import Any, cast

import click

from noema.cli.mix import paint_set
from noema.core.colour.names import USUAL_HUES
from noema.core.errors import BadExercise
from noema.core.exercises.asked import Asked, Ground
from noema.core.exercises.catalogue import KINDS, AnyKind, kind_of
from noema.core.exercises.levels import Key
from noema.core.exercises.media import Medium
from noema.core.exercises.options import Asks, Option, Options, options_of
from noema.core.pigments.shelf import PaintSet
from noema.core.planning.asking import USUAL_PAINTS
from noema.formats.measurements import samples_from_bytes

_EVEN = "even"
_NONE = "none"  # of several words: as good as leaving them out
_LISTED = (Asks.TUBES, Asks.PAIRS)  # written with commas between


@dataclass(frozen=True, kw_only=True)
class Question:
    """What a command was asked."""

    kind: AnyKind
    options: Options
    paints: PaintSet
    named_set: bool  # a set was named, rather than taken as usual
    key: Key

    def asked(self) -> Asked:
        """Work the exercise out with the set."""
        ground = Ground(paints=self.paints, table=USUAL_HUES, key=self.key)
        return self.kind.asked(self.options, ground)

    def plainly(self, medium: Medium) -> Asked | None:
        """Work it out without a set, where none was named and it needs none; else None."""
        if self.named_set or self.kind.needs_paints:
            return None
        try:
            return self.kind.asked_plainly(self.options, medium)
        except BadExercise:
            return None  # these options need a set: the usual one is taken


def exercise_options(command: Callable[..., None]) -> Callable[..., None]:
    """Give a command every kind's options, the set and the key."""
    keys = [*(key.value for key in Key), _EVEN]
    command = click.option(
        "--key",
        type=click.Choice(keys),
        default=Key.PAINTS.value,
        help="What cells are held against; `even` is another word for `named`.",
    )(command)
    for flag in reversed(list(_flags())):
        command = flag(command)
    return click.option(
        "--set", "set_name", default=None, help="A built-in set, NAME+black, or a file."
    )(command)


def question_of(kind: str, *, set_name: str | None, key: str, **options: Any) -> Question:
    """Read the options of an exercise."""
    found = kind_of(kind)
    given = {name: value for name, value in options.items() if _is_given(value)}
    own = {one.name: one for one in options_of(found.options)}
    read = {
        name: _read(own[name], value) if name in own else value for name, value in given.items()
    }
    return Question(
        kind=found,
        options=found.chosen(read),
        paints=paint_set(set_name or USUAL_PAINTS),
        named_set=set_name is not None,
        key=Key.NAMED if key == _EVEN else Key(key),
    )


def _is_given(value: object) -> bool:
    return value is not None and value is not False and value not in ((), "")


def _flags() -> Iterator[Callable[[Callable[..., None]], Callable[..., None]]]:
    """Make a flag of every option, said once for all kinds that have it."""
    had: dict[str, list[tuple[str, Option]]] = {}
    for kind in KINDS.values():
        for one in options_of(kind.options):
            if one.asks is not Asks.LEVEL:
                had.setdefault(one.name, []).append((kind.name, one))
    for name, those in had.items():
        yield _flag(name, dict(those))


def _flag(name: str, by_kind: Mapping[str, Option]) -> Callable[..., Callable[..., None]]:
    one = next(iter(by_kind.values()))
    said: dict[str, list[str]] = {}
    for kind, option in by_kind.items():
        can = ", ".join(value for value, _ in option.choices if value)
        said.setdefault(f"{option.help} {f'({can})' if can else ''}".strip(), []).append(kind)
    words = " ".join(f"{', '.join(kinds)}: {sentence}" for sentence, kinds in said.items())
    flag = f"--{(one.flag or name).replace('_', '-')}"
    if one.asks is Asks.FLAG:
        return click.option(flag, name, is_flag=True, help=words)
    if one.asks is Asks.NUMBER:
        return click.option(flag, name, type=int, default=None, help=words)
    if one.asks is Asks.WORDS:
        return click.option(flag, name, multiple=True, help=words)
    path = click.Path(path_type=Path) if one.asks is Asks.COLOURS else None
    return click.option(flag, name, type=path, default=None, help=words)


def _read(option: Option, value: object) -> object:
    if option.asks in _LISTED:
        return tuple(name.strip() for name in str(value).split(",") if name.strip())
    if option.asks is Asks.WORDS:
        return tuple(word for word in cast(tuple[str, ...], value) if word != _NONE)
    if option.asks is Asks.COLOURS:
        return tuple(sample.lab for sample in samples_from_bytes(Path(str(value)).read_bytes()))
    return value
