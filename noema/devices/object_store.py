"""Photographs, and pieces of those on their way, on any service that speaks S3's protocol.

A place is one line: s3://KEY:SECRET@HOST[:PORT]/BUCKET[/PREFIX][?region=REGION]; s3+http where the
service is on a network of your own and speaks no HTTPS.
"""

import logging
import re
from collections.abc import Iterable, Iterator
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from urllib.parse import SplitResult, parse_qs, unquote, urlsplit

from obstore.exceptions import BaseError
from obstore.store import S3Store

from noema.core.errors import NotFound, OutOfDate, Refused, StoreAway
from noema.core.language import gettext
from noema.devices.file_store import as_named, hash_of, not_there
from noema.devices.piece_store import PIECES_GONE, checked_name, gap

_LOG = logging.getLogger(__name__)
_SCHEMES = {"s3": "https", "s3+http": "http"}
_PART_BYTES = 8 * 2**20  # what is larger goes in parts, side by side, and is there once all are
_CONNECT_S, _ANSWER_S, _KEEP_TRYING_S = 2, 30, 6
_FILES, _PIECES = "files", "pieces"
_PIECE = re.compile(r"(\d{12})-(\d{12})")
_NOBODY = "0" * 64


def is_object_store(place: str) -> bool:
    """Does a place name a service, and not a folder?"""
    return urlsplit(place).scheme in _SCHEMES


def bucket_at(place: str) -> S3Store:
    """Reach a bucket; refuses a place that isn't one, without telling its secret."""
    parts = urlsplit(place)
    bucket, _, prefix = parts.path.strip("/").partition("/")
    if not (parts.hostname and parts.username and parts.password and bucket):
        raise Refused(
            "A store on a service is given as s3://KEY:SECRET@HOST/BUCKET: a part is missing."
        )
    how = parse_qs(parts.query)
    return S3Store(
        bucket,
        prefix=prefix or None,
        config={
            "endpoint": f"{_SCHEMES[parts.scheme]}://{_host(parts)}",
            "access_key_id": unquote(parts.username),
            "secret_access_key": unquote(parts.password),
            "region": how.get("region", ["us-east-1"])[0],
            "checksum_algorithm": "SHA256",  # the service holds what came against it
            "virtual_hosted_style_request": False,
        },
        client_options={
            "allow_http": parts.scheme == "s3+http",
            "connect_timeout": timedelta(seconds=_CONNECT_S),
            "timeout": timedelta(seconds=_ANSWER_S),
        },
        retry_config={"max_retries": 4, "retry_timeout": timedelta(seconds=_KEEP_TRYING_S)},
    )


def _host(parts: SplitResult) -> str:
    return parts.netloc.rpartition("@")[2]


class ObjectFiles:
    """A file store in a bucket: files/ab/cdef…, as in a folder."""

    def __init__(self, bucket: S3Store) -> None:
        self._bucket = bucket

    def put(self, data: bytes) -> str:
        """Send it whole, also where it lies there already: it is put anew."""
        sha256 = hash_of(data)
        with _answers(gettext("Photographs can't be kept just now: try again in a minute.")):
            self._bucket.put(_key(sha256), data, chunk_size=_PART_BYTES, max_concurrency=4)
        return sha256

    def get(self, sha256: str) -> bytes:
        """Fetch it, and hold it against its name."""
        with _answers():
            try:
                data = bytes(self._bucket.get(_key(sha256)).bytes())
            except FileNotFoundError as wrong:
                raise not_there(sha256) from wrong
        return as_named(data, sha256)

    def free_bytes(self) -> None:
        """Say that no limit is known; refuses where the service doesn't answer."""
        self.has(_NOBODY)

    def has(self, sha256: str) -> bool:
        """Ask for its head."""
        return self.put_at(sha256) is not None

    def among(self, names: Iterable[str]) -> frozenset[str]:
        """Go through the list of all: a question for each would take far longer."""
        return frozenset(names) & frozenset(name for name, _ in self._listed())

    def every(self) -> Iterator[bytes]:
        """Fetch one after another; what left meanwhile, or isn't what it was, is passed over."""
        for name, _ in self._listed():
            try:
                yield self.get(name)
            except NotFound:
                continue

    def remove(self, sha256: str) -> None:
        """Remove it from the bucket."""
        with _answers():
            self._bucket.delete(_key(sha256))

    def untouched(self, for_s: float) -> Iterator[str]:
        """Go by the service's own times."""
        before = datetime.now(UTC) - timedelta(seconds=for_s)
        for name, put_at in self._listed():
            if put_at < before:
                yield name

    def put_at(self, sha256: str) -> datetime | None:
        """Ask for its head."""
        with _answers():
            try:
                return self._bucket.head(_key(sha256))["last_modified"]
            except FileNotFoundError:
                return None

    def _listed(self) -> Iterator[tuple[str, datetime]]:
        with _answers():
            for some in self._bucket.list(f"{_FILES}/"):
                for one in some:
                    name = one["path"].removeprefix(f"{_FILES}/").replace("/", "")
                    yield name, one["last_modified"]


class ObjectPieces:
    """Pieces in a bucket: pieces/NAME/FROM-TO, each written once."""

    def __init__(self, bucket: S3Store) -> None:
        self._bucket = bucket

    def length(self, name: str) -> int:
        """Say how far the pieces reach without a gap."""
        return max((end for _, _, end in self._in_order(name)), default=0)

    def append(self, name: str, at: int, data: bytes) -> int:
        """Put what is new of it as one more piece."""
        there = self.length(name)
        if at > there:
            raise OutOfDate(gap(there))
        fresh = data[there - at :]
        if fresh:
            end = there + len(fresh)
            with _answers(gettext("Photographs can't be kept just now: try again in a minute.")):
                self._bucket.put(f"{_folder(name)}{there:012d}-{end:012d}", fresh)
        return there + len(fresh)

    def take(self, name: str) -> bytes:
        """Fetch the pieces and join them."""
        joined = bytearray()
        with _answers():
            try:
                for path, begins, _ in self._in_order(name):
                    joined[begins:] = bytes(self._bucket.get(path).bytes())
            except FileNotFoundError as wrong:  # dropped meanwhile
                raise NotFound(gettext(PIECES_GONE)) from wrong
        if not joined:
            raise NotFound(gettext(PIECES_GONE))
        return bytes(joined)

    def drop(self, name: str) -> None:
        """Remove every piece."""
        with _answers():
            paths = [one["path"] for some in self._bucket.list(_folder(name)) for one in some]
            if paths:
                self._bucket.delete(paths)

    def _in_order(self, name: str) -> list[tuple[str, int, int]]:
        """Give path, beginning and end of the pieces that join without a gap."""
        with _answers():
            paths = sorted(one["path"] for some in self._bucket.list(_folder(name)) for one in some)
        joined, reaches = list[tuple[str, int, int]](), 0
        for path in paths:
            found = _PIECE.fullmatch(path.rpartition("/")[2])
            if found is None:
                continue
            begins, end = int(found.group(1)), int(found.group(2))
            if begins <= reaches < end:
                joined.append((path, begins, end))
                reaches = end
        return joined


def _key(sha256: str) -> str:
    return f"{_FILES}/{sha256[:2]}/{sha256[2:]}"


def _folder(name: str) -> str:
    return f"{_PIECES}/{checked_name(name)}/"


@contextmanager
def _answers(or_else: str = "") -> Iterator[None]:
    """Say in a sentence that the service doesn't do what it should; the log alone says why."""
    try:
        yield
    except (BaseError, OSError) as wrong:
        _LOG.error("the store of photographs: %s", str(wrong).splitlines()[0][:300])
        sentence = or_else or gettext("Photographs can't be read just now: try again.")
        raise StoreAway(sentence) from wrong
