"""Backups that are made every night, kept for some days, and tried every month."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path
from tempfile import TemporaryDirectory

from sqlalchemy import text

from noema.core.errors import BadFile
from noema.core.language import gettext
from noema.devices.database_dump import dump_database, restore_database, scratch_database
from noema.formats.backup import open_backup, own_file, write_backup
from noema.store.engine import open_engine

_NAME = re.compile(r"noema-(\d{8}T\d{6})\.tar(\.age)?")
_TRIED = "tried.txt"


@dataclass(frozen=True, kw_only=True)
class BackupPlan:
    """Where backups lie, for how long, and for whom they are encrypted."""

    database_url: str
    folder: Path
    days: int
    key: str = ""  # an age recipient; empty: they lie open, for their owner alone


def back_up(plan: BackupPlan, files: Iterator[bytes], now: datetime) -> Path:
    """Make a backup, then remove those that are too old; gives where it lies."""
    plan.folder.mkdir(mode=0o700, parents=True, exist_ok=True)
    ending = ".tar.age" if plan.key else ".tar"
    place = plan.folder / f"noema-{now:%Y%m%dT%H%M%S}{ending}"
    with TemporaryDirectory(dir=plan.folder) as name:
        # The database first: files are never changed, so every file it speaks of is there then.
        dump = Path(name) / "database.dump"
        own_file(dump).close()
        dump_database(plan.database_url, dump)
        write_backup(place, dump, files, plan.key)
    for old in backups_in(plan.folder):
        if made_at(old, now) < now - timedelta(days=plan.days):
            old.unlink()
    return place


def backups_in(folder: Path) -> list[Path]:
    """Give the backups of a folder, the oldest first."""
    found = folder.iterdir() if folder.is_dir() else ()
    return sorted(one for one in found if _NAME.fullmatch(one.name))


def made_at(place: Path, now: datetime) -> datetime:
    """Say when a backup was made, by its name; in the zone of `now`."""
    found = _NAME.fullmatch(place.name)
    assert found is not None  # its name was looked at before
    return datetime.strptime(found.group(1), "%Y%m%dT%H%M%S").replace(tzinfo=now.tzinfo)


def try_newest(plan: BackupPlan, now: datetime, identity: str = "") -> str:
    """Restore the newest backup into a database beside, and say what came of it.

    What came of it is also kept in the folder.
    """
    said = _tried(plan, identity)
    (plan.folder / _TRIED).write_text(f"{now:%Y-%m-%d %H:%M} {said}\n", encoding="utf-8")
    return said


def _tried(plan: BackupPlan, identity: str) -> str:
    backups = backups_in(plan.folder)
    if not backups:
        raise BadFile(gettext("There is no backup to try."))
    newest = backups[-1]
    if newest.suffix == ".age" and not identity:
        return gettext("%(name)s can’t be tried without its key.", name=newest.name)
    with (
        open_backup(newest, identity) as backup,
        scratch_database(plan.database_url) as url,
    ):
        restore_database(url, backup.dump)
        engine = open_engine(url)
        with engine.connect() as connection:
            schools = connection.execute(text("SELECT count(*) FROM school")).scalar_one()
            photographs = connection.execute(text("SELECT count(*) FROM photograph")).scalar_one()
        engine.dispose()
        return gettext(
            "%(name)s came back whole: %(schools)s schools, %(photographs)s photographs, "
            "%(files)s files.",
            name=newest.name,
            schools=schools,
            photographs=photographs,
            files=backup.count,
        )
