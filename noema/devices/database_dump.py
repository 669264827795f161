"""PostgreSQL's own dump and restore of a whole database."""

import os
import shutil
import subprocess
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path
from urllib.parse import unquote, urlsplit, urlunsplit
from uuid import uuid4

from noema.core.errors import Refused

_DEBIAN = Path("/usr/lib/postgresql")


def dump_database(database_url: str, place: Path) -> None:
    """Write the database to a file, in PostgreSQL's custom format."""
    address, secret = _parted(database_url)
    how = ["--format=custom", "--no-owner", "--file", str(place)]
    _run(["pg_dump", *how, "--dbname", address], secret)


def restore_database(database_url: str, dump: Path) -> None:
    """Put a dump in the place of whatever the database holds, whole or not at all."""
    how = ["--clean", "--if-exists", "--no-owner", "--single-transaction", "--exit-on-error"]
    address, secret = _parted(database_url)
    _run(["pg_restore", *how, "--dbname", address, str(dump)], secret)


@contextmanager
def scratch_database(database_url: str) -> Iterator[str]:
    """Give an empty database beside one, that is gone afterwards."""
    name = f"noema_scratch_{uuid4().hex[:8]}"
    address, secret = _parted(database_url)
    parts = urlsplit(address)
    beside = parts._replace(path=f"/{name}")
    maintenance = urlunsplit(parts)
    _run(["psql", "--quiet", "--command", f"CREATE DATABASE {name}", maintenance], secret)
    try:
        own = urlsplit(database_url)._replace(path=beside.path)
        yield urlunsplit(own)
    finally:
        _run(
            ["psql", "--quiet", "--command", f"DROP DATABASE {name} WITH (FORCE)", maintenance],
            secret,
        )


def _parted(database_url: str) -> tuple[str, dict[str, str]]:
    """Give the address without its password, which others would see among the processes."""
    parts = urlsplit(database_url)
    if parts.password is None:
        return database_url, {}
    place = parts.netloc.rpartition("@")[2]
    address = parts._replace(netloc=f"{parts.username}@{place}")
    return urlunsplit(address), {"PGPASSWORD": unquote(parts.password)}


def _run(command: list[str], secret: Mapping[str, str]) -> None:
    done = subprocess.run(
        [_program(command[0]), *command[1:]],
        capture_output=True,
        check=False,
        env={**os.environ, **secret},
    )
    if done.returncode != 0:
        said = done.stderr.decode(errors="replace").strip().splitlines()
        raise Refused(f"{command[0]} refused: {said[-1] if said else 'it said nothing'}.")


def _program(name: str) -> str:
    found = shutil.which(name)
    if found:
        return found
    versions = sorted(_DEBIAN.glob(f"*/bin/{name}"), key=lambda path: int(path.parts[-3]))
    if not versions:
        raise Refused(f"{name} isn't there: install Debian's postgresql-client.")
    return str(versions[-1])
