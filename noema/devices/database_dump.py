"""PostgreSQL's own dump and restore of a whole database."""

import shutil
import subprocess
from pathlib import Path

from noema.core.errors import Refused

_DEBIAN = Path("/usr/lib/postgresql")


def dump_database(database_url: str) -> bytes:
    """Give the database in PostgreSQL's custom format."""
    return _run(["pg_dump", "--format=custom", "--no-owner", "--dbname", database_url])


def restore_database(database_url: str, dump: bytes) -> None:
    """Put a dump in the place of whatever the database holds, whole or not at all."""
    how = ["--clean", "--if-exists", "--no-owner", "--single-transaction", "--exit-on-error"]
    _run(["pg_restore", *how, "--dbname", database_url], dump)


def _run(command: list[str], given: bytes | None = None) -> bytes:
    done = subprocess.run(
        [_program(command[0]), *command[1:]], input=given, capture_output=True, check=False
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
