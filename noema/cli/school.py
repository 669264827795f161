"""noema school: make a school and its first teacher."""

import click

from noema.actions.create_school import create_school
from noema.settings import settings_from
from noema.store.engine import bring_up_to_date, open_engine, open_sessions


@click.command("school")
@click.option("--name", required=True, help="The school's name.")
@click.option("--email", required=True, help="What the first teacher logs in with.")
@click.option("--teacher", required=True, help="What the teacher is called.")
@click.option("--time-zone", default="UTC", show_default=True, help="Such as Europe/London.")
@click.option("--password", prompt=True, hide_input=True, confirmation_prompt=True)
def command(name: str, email: str, teacher: str, time_zone: str, password: str) -> None:
    """Make a school with its first teacher."""
    engine = open_engine(settings_from().database_url)
    bring_up_to_date(engine)
    with open_sessions(engine).begin() as session:
        create_school(session, name, email, teacher, password, time_zone)
    click.echo(f"{name} is there; {teacher} logs in as {email.strip().lower()}.")
