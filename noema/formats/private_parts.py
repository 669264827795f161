"""What cameras write beside a picture and nobody here needs: where, when, by whom, and more.

A picture's own bytes stay as they are. Kept are its colour profile and, of EXIF (CIPA DC-008), how
it is turned, which camera took it and how it exposed. JPEG (ITU-T T.81), PNG (ISO/IEC 15948) and
WebP (RFC 9649) are copied without the other parts; in HEIC (ISO/IEC 23008-12), whose parts point at
each other by place, they are overwritten where they stand.
"""

import re
import struct
import warnings
import zlib
from collections.abc import Iterator
from io import BytesIO

from PIL import Image
from pillow_heif import register_heif_opener

register_heif_opener(thumbnails=False)

_EXIF = b"Exif\0\0"
_EXIF_IFD = 0x8769
_KEPT = frozenset({0x0112, 0x010F, 0x0110})  # turn, make, model
_KEPT_OF_EXPOSURE = frozenset(
    {
        0x829A,  # time
        0x829D,  # aperture
        0x8827,  # sensitivity
        0x9204,  # bias
        0x9207,  # metering
        0x9208,  # light
        0x9209,  # flash
        0x920A,  # focal length
        0xA001,  # colour space
        0xA402,  # mode
        0xA403,  # white balance
        0xA405,  # focal length of a usual frame
    }
)
_PNG = b"\x89PNG\r\n\x1a\n"
_PNG_KEPT = frozenset(
    b"IHDR PLTE IDAT IEND tRNS cHRM gAMA iCCP sBIT sRGB cICP pHYs bKGD".split(b" ")
)
_WEBP_KEPT = frozenset((b"VP8 ", b"VP8L", b"VP8X", b"ALPH", b"ICCP"))
_WEBP_HAS_EXIF, _WEBP_HAS_XMP = 0x08, 0x04
_SOI, _SOS, _EOI, _APP0, _APP1, _APP2, _ADOBE, _APP15, _COM = (
    0xD8, 0xDA, 0xD9, 0xE0, 0xE1, 0xE2, 0xEE, 0xEF, 0xFE,
)  # fmt: skip
_MARKER = re.compile(rb"\xff[^\x00\x01\xd0-\xd7\xff]")
_TIFF = re.compile(rb"(?<=Exif\0\0)(?:II\*\0|MM\0\*)")
_BROKEN = (OSError, SyntaxError, ValueError, TypeError, KeyError, struct.error, ZeroDivisionError)


def without_private(data: bytes) -> bytes:
    """Give a photograph that opens without its private parts; the same bytes where it has none."""
    if data[:2] == b"\xff\xd8":
        return _jpeg(data)
    if data.startswith(_PNG):
        return _png(data)
    if data[:4] == b"RIFF" and data[8:12] == b"WEBP":
        return _webp(data)
    return _heic(data) if data[4:8] == b"ftyp" else data


def _clean_exif(tiff: bytes) -> bytes:
    """Give an EXIF block, from its TIFF header on, with only what is kept; empty for none."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        try:
            return _kept_of(tiff)
        except _BROKEN:
            return b""  # nobody can tell what stands in it


def _kept_of(tiff: bytes) -> bytes:
    exif, kept = Image.Exif(), Image.Exif()
    exif.load(_EXIF + tiff)
    exposure = exif.get_ifd(_EXIF_IFD)
    kept.update({tag: exif[tag] for tag in sorted(_KEPT & set(exif))})
    of_exposure = {tag: exposure[tag] for tag in sorted(_KEPT_OF_EXPOSURE & set(exposure))}
    if of_exposure:
        kept.get_ifd(_EXIF_IFD).update(of_exposure)
    return kept.tobytes().removeprefix(_EXIF) if kept else b""


def _jpeg(data: bytes) -> bytes:
    kept = bytearray(data[:2])
    for marker, segment in _segments(data):
        if marker == _APP1:
            kept += _exif_segment(segment)
        elif _is_kept(marker, segment):
            kept += segment
    return data if kept == data else bytes(kept)


def _segments(data: bytes) -> Iterator[tuple[int, bytes]]:
    """Give a JPEG's marker segments, each scan with its coded data; what follows its end goes."""
    at = 2
    while found := _MARKER.search(data, at):
        start, marker = found.start(), data[found.start() + 1]
        if marker == _EOI:
            yield marker, data[start : start + 2]
            return
        if start + 4 > len(data):
            break
        end = start + 2 + int.from_bytes(data[start + 2 : start + 4], "big")
        if marker == _SOS:
            after = _MARKER.search(data, end)
            end = after.start() if after else len(data)
        yield marker, data[start:end]
        at = end


def _is_kept(marker: int, segment: bytes) -> bool:
    if marker == _APP2:
        return segment[4:].startswith(b"ICC_PROFILE\0")
    return marker in (_APP0, _ADOBE) or not (_APP0 <= marker <= _APP15 or marker == _COM)


def _exif_segment(segment: bytes) -> bytes:
    if not segment[4:].startswith(_EXIF):
        return b""
    tiff = segment[4 + len(_EXIF) :]
    clean = _clean_exif(tiff)
    if clean == tiff:
        return segment
    if not clean:
        return b""
    return b"\xff\xe1" + (2 + len(_EXIF) + len(clean)).to_bytes(2, "big") + _EXIF + clean


def _png(data: bytes) -> bytes:
    kept, at = bytearray(_PNG), len(_PNG)
    while at + 12 <= len(data):
        length = int.from_bytes(data[at : at + 4], "big")
        kind, body = data[at + 4 : at + 8], data[at + 8 : at + 8 + length]
        if kind in _PNG_KEPT:
            kept += data[at : at + 12 + length]
        elif kind == b"eXIf" and (clean := _clean_exif(body)):
            crc = zlib.crc32(kind + clean)
            kept += len(clean).to_bytes(4, "big") + kind + clean + crc.to_bytes(4, "big")
        at += 12 + length
        if kind == b"IEND":
            break
    return bytes(kept)


def _webp(data: bytes) -> bytes:
    chunks, at = [], 12
    while at + 8 <= len(data):
        kind, length = data[at : at + 4], int.from_bytes(data[at + 4 : at + 8], "little")
        body = data[at + 8 : at + 8 + length]
        if kind == b"EXIF":
            body = _clean_exif(body.removeprefix(_EXIF))
        if kind in _WEBP_KEPT or (kind == b"EXIF" and body):
            chunks.append((kind, body))
        at += 8 + length + length % 2
    has_exif = any(kind == b"EXIF" for kind, _ in chunks)
    kept = bytearray(b"WEBP")
    for kind, body in chunks:
        if kind == b"VP8X" and body:
            flags = body[0] & ~(_WEBP_HAS_XMP | _WEBP_HAS_EXIF) | has_exif * _WEBP_HAS_EXIF
            body = bytes([flags]) + body[1:]
        kept += kind + len(body).to_bytes(4, "little") + body + b"\0" * (len(body) % 2)
    return b"RIFF" + len(kept).to_bytes(4, "little") + bytes(kept)


def _heic(data: bytes) -> bytes:
    try:
        with Image.open(BytesIO(data), formats=("HEIF",)) as image:
            info = dict(image.info)
    except _BROKEN:
        return data  # it doesn't open, and is refused
    kept = bytearray(data)
    exif = info.get("exif")
    if isinstance(exif, bytes) and exif:
        _overwrite_exif(kept, len(exif[exif.find(_EXIF) + len(_EXIF) :] if _EXIF in exif else exif))
    others = info.get("metadata") or []
    for told in (info.get("xmp"), *(one.get("data") for one in others if isinstance(one, dict))):
        if isinstance(told, bytes) and told:
            _overwrite(kept, told, b" " * len(told))
    return bytes(kept)


def _overwrite_exif(data: bytearray, length: int) -> None:
    """Clean every EXIF block of some length; the decoder gives it with another turn than it has."""
    for found in list(_TIFF.finditer(data)):
        at = found.start()
        tiff = bytes(data[at : at + length])
        clean = _clean_exif(tiff)
        data[at : at + length] = clean[:length].ljust(len(tiff), b"\0")


def _overwrite(data: bytearray, old: bytes, new: bytes) -> None:
    at = data.find(old)
    while at >= 0:
        data[at : at + len(old)] = new.ljust(len(old), b"\0")
        at = data.find(old, at + len(old))
