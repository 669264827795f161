"""PostgreSQL's own dump and restore of a whole database."""

import os
import shutil
import subprocess
from collections.abc import Mapping
from pathlib import Path
from urllib.parse import unquote, urlsplit, urlunsplit

from noema.core.errors import Refused

_DEBIAN = Path("/usr/lib/postgresql")


def dump_database(database_url: str) -> bytes:
    """Give the database in PostgreSQL's custom format."""
    address, secret = _parted(database_url)
    return _run(["pg_dump", "--format=custom", "--no-owner", "--dbname", address], secret)


def restore_database(database_url: str, dump: bytes) -> None:
    """Put a dump in the place of whatever the database holds, whole or not at all."""
    how = ["--clean", "--if-exists", "--no-owner", "--single-transaction", "--exit-on-error"]
    address, secret = _parted(database_url)
    _run(["pg_restore", *how, "--dbname", address], secret, dump)


def _parted(database_url: str) -> tuple[str, dict[str, str]]:
    """Give the address without its password, which others would see among the processes."""
    parts = urlsplit(database_url)
    if parts.password is None:
        return database_url, {}
    place = parts.netloc.rpartition("@")[2]
    address = parts._replace(netloc=f"{parts.username}@{place}")
    return urlunsplit(address), {"PGPASSWORD": unquote(parts.password)}


def _run(command: list[str], secret: Mapping[str, str], given: bytes | None = None) -> bytes:
    done = subprocess.run(
        [_program(command[0]), *command[1:]],
        input=given,
        capture_output=True,
        check=False,
        env={**os.environ, **secret},
    )
    if done.returncode != 0:
        said = done.stderr.decode(errors="replace").strip().splitlines()
        raise Refused(f"{command[0]} refused: {said[-1] if said else 'it said nothing'}.")
    return done.stdout


def _program(name: str) -> str:
    found = shutil.which(name)
    if found:
        return found
    versions = sorted(_DEBIAN.glob(f"*/bin/{name}"), key=lambda path: int(path.parts[-3]))
    if not versions:
        raise Refused(f"{name} isn't there: install Debian's postgresql-client.")
    return str(versions[-1])
