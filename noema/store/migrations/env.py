"""Runs migrations on the connection that `bring_up_to_date` hands over."""

from alembic import context

from noema.store import (  # noqa: F401  their tables join the metadata
    bench_tables,
    eye_tables,
    logbook_tables,
    paint_tables,
    planning_tables,
    student_tables,
    tables,
    trial_tables,
)
from noema.store.base import Base

context.configure(connection=context.config.attributes["connection"], target_metadata=Base.metadata)
with context.begin_transaction():
    context.run_migrations()
