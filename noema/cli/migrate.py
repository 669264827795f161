"""noema migrate: bring the database's tables up to date."""

import click

from noema.settings import settings_from
from noema.store.engine import bring_up_to_date, open_engine


@click.command("migrate")
def command() -> None:
    """Run every migration that is missing."""
    bring_up_to_date(open_engine(settings_from().database_url))
