"""noema log-out E-MAIL: end a teacher's log-ins everywhere."""

import click

from noema.actions.come_in import show_out
from noema.settings import settings_from
from noema.store.engine import open_engine, open_sessions


@click.command("log-out")
@click.argument("email")
def command(email: str) -> None:
    """End a teacher's log-ins on all devices."""
    with open_sessions(open_engine(settings_from().database_url)).begin() as session:
        count = show_out(session, email)
    click.echo(f"{count} log-ins ended.")
