"""noema password E-MAIL: give a teacher a new password, and end what was begun under the old."""

import click

from noema.actions.set_password import set_password
from noema.settings import settings_from
from noema.store.engine import open_engine, open_sessions


@click.command("password")
@click.argument("email")
@click.option("--password", prompt=True, hide_input=True, confirmation_prompt=True)
def command(email: str, password: str) -> None:
    """Give a teacher a new password."""
    with open_sessions(open_engine(settings_from().database_url)).begin() as session:
        teacher = set_password(session, email, password)
    click.echo(f"{teacher.display_name} logs in with it from now on, and nowhere else any more.")
