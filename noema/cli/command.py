"""The `noema` command itself: finds the file of a command only when it is called for."""

import sys
from importlib import import_module

import click

from noema.core.errors import Refused

COMMANDS = {
    "sheet": "noema.cli.sheet",
    "expect": "noema.cli.expect",
    "read": "noema.cli.read",
    "judge": "noema.cli.judge",
    "plan": "noema.cli.plan",
    "amounts": "noema.cli.amounts",
    "bench": "noema.cli.bench",
    "nearest": "noema.cli.nearest",
    "values": "noema.cli.values",
    "spots": "noema.cli.spots",
    "few-tubes": "noema.cli.few_tubes",
    "hvc": "noema.cli.hvc",
    "mix": "noema.cli.mix",
    "picture": "noema.cli.picture",
    "school": "noema.cli.school",
    "password": "noema.cli.password",
    "log-out": "noema.cli.log_out",
    "migrate": "noema.cli.migrate",
    "demo": "noema.cli.demo",
    "archive": "noema.cli.archive",
    "bring-in": "noema.cli.bring_in",
    "backup": "noema.cli.backup",
    "restore": "noema.cli.restore",
    "move-files": "noema.cli.move_files",
    "school-system": "noema.cli.school_system",
}

_BAD_CALL = 2


class Commands(click.Group):
    """A group that starts quickly because it imports one command only."""

    def list_commands(self, ctx: click.Context) -> list[str]:
        """Name the commands."""
        return list(COMMANDS)

    def get_command(self, ctx: click.Context, name: str) -> click.Command | None:
        """Load one command."""
        if name not in COMMANDS:
            return None
        command = import_module(COMMANDS[name]).command
        return command if isinstance(command, click.Command) else None


@click.group(cls=Commands)
def noema() -> None:
    """Read painted colour exercises from photographs."""


def main() -> None:
    """Run; whatever is refused is one line on standard error and exit status 2."""
    try:
        status = noema.main(standalone_mode=False)
    except click.exceptions.NoArgsIsHelpError as wanted:
        click.echo(wanted.format_message())
        sys.exit(_BAD_CALL)
    except click.ClickException as wrong:
        _stop(wrong.format_message())
    except (Refused, OSError) as wrong:
        _stop(str(wrong))
    except click.Abort:
        _stop("Stopped.")
    else:
        sys.exit(status if isinstance(status, int) else 0)


def _stop(sentence: str) -> None:
    click.echo("noema: " + " ".join(sentence.split()), err=True)
    sys.exit(_BAD_CALL)
