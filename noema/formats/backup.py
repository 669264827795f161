"""Backups: a tar with the database's dump, every stored file, and a manifest of their hashes.

It is written and read a piece at a time, however large a school is, and may be encrypted for
whoever has the key (age, age-encryption.org/v1): then nobody reads it who only finds it.
"""

import hashlib
import os
import shutil
import tarfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from io import BufferedReader, BytesIO
from pathlib import Path
from tempfile import TemporaryDirectory
from threading import Thread
from typing import IO, cast

import orjson
import pyrage

from noema.core.errors import BadFile
from noema.core.language import gettext

FORMAT = "noema-backup/1"
_MANIFEST, _DUMP, _FILES = "manifest.json", "database.dump", "files/"
_PIECE = 2**20
_AGE = b"age-encryption.org/v1"


def write_backup(place: Path, dump: Path, files: Iterator[bytes], key: str = "") -> int:
    """Write a backup beside its place, then put it there in one step; gives how many files.

    `key` is an age recipient, such as age1…, for whom it is encrypted.
    """
    new = place.with_name(f"{place.name}.part")
    with own_file(new) as file:
        if key:
            count = _through(file, key, lambda out: _write(out, dump, files))
        else:
            count = _write(file, dump, files)
    new.replace(place)
    return count


def recipient(key: str) -> pyrage.x25519.Recipient:
    """Read a public key; refuses what is none."""
    try:
        return pyrage.x25519.Recipient.from_str(key)
    except pyrage.RecipientError as wrong:
        raise BadFile(
            gettext("That is no public key of age's: give one that begins with age1.")
        ) from wrong


def _write(out: IO[bytes], dump: Path, files: Iterator[bytes]) -> int:
    hashes = {}
    with tarfile.open(fileobj=out, mode="w|") as tar:
        hashes[_DUMP] = _hash_of(dump)
        tar.add(dump, arcname=_DUMP, filter=_plain)
        for body in files:
            sha256 = hashlib.sha256(body).hexdigest()
            hashes[f"{_FILES}{sha256}"] = sha256
            _add(tar, f"{_FILES}{sha256}", body)
        manifest = {"format": FORMAT, "sha256": hashes}
        _add(tar, _MANIFEST, orjson.dumps(manifest, option=orjson.OPT_INDENT_2))
    return len(hashes) - 1


def _through(file: IO[bytes], key: str, write: Callable[[IO[bytes]], int]) -> int:
    """Encrypt what is written, as it is written."""
    there, here = os.pipe()
    written, wrong = list[int](), list[BaseException]()

    def run() -> None:
        try:
            with os.fdopen(here, "wb") as out:
                written.append(write(out))
        except BaseException as any_wrong:  # it is raised below, where somebody hears it
            wrong.append(any_wrong)

    writer = Thread(target=run)
    writer.start()
    with os.fdopen(there, "rb") as plain:
        pyrage.encrypt_io(plain, file, [recipient(key)])
    writer.join()
    if wrong:
        raise wrong[0]
    return written[0]


def own_file(place: Path) -> IO[bytes]:
    """Open a file to be written that nobody but its owner may read."""
    place.unlink(missing_ok=True)
    return os.fdopen(os.open(place, os.O_CREAT | os.O_EXCL | os.O_WRONLY, 0o600), "wb")


class Backup:
    """A backup every part of which is as it was written."""

    def __init__(self, place: Path, folder: Path) -> None:
        self._place, self.dump = place, folder / _DUMP
        self.count = _checked(place, self.dump) - 1

    def files(self) -> Iterator[bytes]:
        """Give the stored files, one by one."""
        with tarfile.open(self._place, "r") as tar:
            for member in tar:
                body = tar.extractfile(member)
                if member.name.startswith(_FILES) and body is not None:
                    yield body.read()


@contextmanager
def open_backup(place: Path, identity: str = "") -> Iterator[Backup]:
    """Open a backup whose every part is as it was written, or refuse it whole.

    `identity` is the age key (AGE-SECRET-KEY-…) of one that is encrypted. What is unpacked beside
    it is its owner's alone, and gone afterwards.
    """
    with TemporaryDirectory(dir=place.parent) as name:
        folder = Path(name)
        try:
            plain = _decrypted(place, folder / "backup.tar", identity)
            backup = Backup(plain, folder)
        except (
            tarfile.TarError, OSError, KeyError, TypeError, orjson.JSONDecodeError,
            pyrage.DecryptError, pyrage.IdentityError,
        ) as wrong:  # fmt: skip
            raise BadFile(
                gettext("%(name)s is no backup of Noema's, or isn't whole.", name=place.name)
            ) from wrong
        yield backup


def _decrypted(place: Path, plain: Path, identity: str) -> Path:
    with place.open("rb") as file:
        is_encrypted = file.read(len(_AGE)) == _AGE
        file.seek(0)
        if not is_encrypted:
            return place
        if not identity:
            raise BadFile(
                gettext("%(name)s is encrypted: give the key it opens with.", name=place.name)
            )
        with own_file(plain) as out:
            pyrage.decrypt_io(file, out, [pyrage.x25519.Identity.from_str(identity.strip())])
    return plain


def _checked(place: Path, dump: Path) -> int:
    """Hold every part against the manifest, and lay the dump out; gives how many parts."""
    found, manifest = dict[str, str](), None
    with tarfile.open(place, "r") as tar:
        for member in tar:
            body = tar.extractfile(member)
            if not member.isfile() or body is None:
                continue
            if member.name == _MANIFEST:
                manifest = orjson.loads(body.read())
            elif member.name == _DUMP:
                with own_file(dump) as out:
                    shutil.copyfileobj(body, out, _PIECE)
                found[member.name] = _hash_of(dump)
            else:
                found[member.name] = hashlib.file_digest(
                    cast(BufferedReader, body), "sha256"
                ).hexdigest()
    if manifest is None or manifest["format"] != FORMAT or set(manifest["sha256"]) != set(found):
        raise BadFile(gettext("The backup hasn't the parts its manifest names: use another one."))
    for name, sha256 in manifest["sha256"].items():
        if found[name] != sha256:
            raise BadFile(
                gettext("“%(name)s” in the backup was changed: use another one.", name=name)
            )
    return len(found)


def _hash_of(place: Path) -> str:
    with place.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _plain(info: tarfile.TarInfo) -> tarfile.TarInfo:
    """Tell nothing of who wrote it."""
    info.mode, info.uid, info.gid, info.uname, info.gname, info.mtime = 0o600, 0, 0, "", "", 0
    return info


def _add(tar: tarfile.TarFile, name: str, body: bytes) -> None:
    info = tarfile.TarInfo(name)
    info.size, info.mode = len(body), 0o600
    tar.addfile(info, BytesIO(body))
