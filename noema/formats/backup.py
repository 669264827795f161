"""Backups: a tar with the database's dump, every stored file, and a manifest of their hashes."""

import hashlib
import os
import tarfile
from collections.abc import Iterator
from dataclasses import dataclass
from io import BytesIO
from pathlib import Path
from typing import IO

import orjson

from noema.core.errors import BadFile
from noema.core.language import gettext

FORMAT = "noema-backup/1"
_MANIFEST, _DUMP, _FILES = "manifest.json", "database.dump", "files/"


@dataclass(frozen=True, kw_only=True)
class Backup:
    """What a backup holds."""

    dump: bytes
    files: tuple[bytes, ...]


def write_backup(place: Path, dump: bytes, files: Iterator[bytes]) -> int:
    """Write a backup beside its place, then put it there in one step; gives how many files."""
    new = place.with_name(f"{place.name}.part")
    hashes = {_DUMP: hashlib.sha256(dump).hexdigest()}
    with own_file(new) as file, tarfile.open(fileobj=file, mode="w") as tar:
        _add(tar, _DUMP, dump)
        for body in files:
            sha256 = hashlib.sha256(body).hexdigest()
            hashes[f"{_FILES}{sha256}"] = sha256
            _add(tar, f"{_FILES}{sha256}", body)
        manifest = {"format": FORMAT, "sha256": hashes}
        _add(tar, _MANIFEST, orjson.dumps(manifest, option=orjson.OPT_INDENT_2))
    new.replace(place)
    return len(hashes) - 1


def own_file(place: Path) -> IO[bytes]:
    """Open a file to be written that nobody but its owner may read."""
    place.unlink(missing_ok=True)
    return os.fdopen(os.open(place, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600), "wb")


def read_backup(place: Path) -> Backup:
    """Read a backup whose every part is as it was written, or refuse it whole."""
    try:
        with tarfile.open(place, "r") as tar:
            parts = {
                member.name: body.read()
                for member in tar
                if member.isfile() and (body := tar.extractfile(member)) is not None
            }
        manifest = orjson.loads(parts.pop(_MANIFEST))
        hashes = manifest["sha256"]
        if manifest["format"] != FORMAT or set(hashes) != set(parts):
            raise BadFile(
                gettext("The backup hasn't the parts its manifest names: use another one.")
            )
        for name, part in parts.items():
            if hashlib.sha256(part).hexdigest() != hashes[name]:
                raise BadFile(
                    gettext("“%(name)s” in the backup was changed: use another one.", name=name)
                )
        dump = parts.pop(_DUMP)
    except (tarfile.TarError, OSError, KeyError, TypeError, orjson.JSONDecodeError) as wrong:
        raise BadFile(
            gettext("%(name)s is no backup of Noema's, or isn't whole.", name=place.name)
        ) from wrong
    return Backup(dump=dump, files=tuple(parts.values()))


def _add(tar: tarfile.TarFile, name: str, body: bytes) -> None:
    info = tarfile.TarInfo(name)
    info.size, info.mode = len(body), 0o600
    tar.addfile(info, BytesIO(body))
