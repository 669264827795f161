"""A phone's camera over a desk: perspective, curled paper, lens, blur, noise, tone curve, file."""

from io import BytesIO

import cv2
import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray
from PIL import Image

from noema.core.photo.sample import LUMINANCE
from noema.stand_ins.colour_file import Space, encoded, from_linear_srgb, icc_profile
from noema.stand_ins.scene import COARSE, curled, light_on, shine_on
from noema.stand_ins.shot import Shot

Pixels = NDArray[np.float32]

PAGE_WIDTH_MM = 210.0
_EYE = 2.0  # page widths from lens to desk
_EXIF_ORIENTATION, _EXIF_MODEL = 0x0112, 0x0110
_TURNS = {1: 0, 6: 1, 3: 2, 8: 3}  # EXIF value: quarter turns the stored picture is off by
_LIFTED_OVER = 0.06  # of the picture's width, over which a phone looks when it lifts dark parts
_COARSE = 8  # pixels over which geometry is worked out once
_ENCODED = {
    space: encoded(np.linspace(0.0, 1.0, 4096), space).astype(np.float32) for space in Space
}


def photograph(
    page: Pixels,
    shot: Shot,
    size_px: tuple[int, int],
    rng: Generator,
    printed: Pixels | None = None,
) -> bytes:
    """Photograph a page (h, w, 3) of linear reflectance as a JPEG of width x height pixels."""
    return expose(page, shot, size_px, rng, printed)[0]


def expose(
    page: Pixels,
    shot: Shot,
    size_px: tuple[int, int],
    rng: Generator,
    printed: Pixels | None = None,
) -> tuple[bytes, NDArray[np.float32]]:
    """Also give the shine (h, w) on the page, as a share of white paper's light.

    `printed` is the page before it was painted: only paint shines.
    """
    px_per_mm = page.shape[1] / PAGE_WIDTH_MM
    height_mm = curled(page.shape[:2], shot, rng)
    lit = light_on(page, shot, px_per_mm, height_mm, rng)
    shine = shine_on(page, page if printed is None else printed, shot, px_per_mm, rng)
    if shot.glare:
        lit += (shot.exposure * shine)[..., None]
    picture = _seen(lit, height_mm, shot, size_px, rng)
    scale = max(size_px) / 4032.0
    soft = cv2.GaussianBlur(picture, (0, 0), max(shot.blur_px * scale, 0.3))
    picture = np.asarray(soft, dtype=np.float32)
    grain = rng.standard_normal((size_px[1], size_px[0], 3), dtype=np.float32)
    picture += grain * shot.noise * np.sqrt(np.maximum(picture, 0.0005))
    if shot.local_tone:
        picture *= _lifted_tone(picture, shot)[..., None]
    return _developed(picture, shot), shine


def _lifted_tone(picture: Pixels, shot: Shot) -> Pixels:
    """Give the gain (h, w) by which a phone lifts dark parts of a picture and holds light ones."""
    coarse = cv2.resize(picture @ LUMINANCE.astype(np.float32), None, fx=0.05, fy=0.05)
    about = cv2.GaussianBlur(coarse, (0, 0), coarse.shape[1] * _LIFTED_OVER)
    gain = (np.maximum(about, 0.02) / shot.exposure) ** -shot.local_tone
    size = (picture.shape[1], picture.shape[0])
    return np.asarray(cv2.resize(gain.astype(np.float32), size, interpolation=cv2.INTER_LINEAR))


def _seen(
    lit: Pixels, height_mm: Pixels, shot: Shot, size_px: tuple[int, int], rng: Generator
) -> Pixels:
    picture = _desk(size_px, rng)
    width, height = size_px
    where = _page_points(lit, height_mm, shot, size_px)
    inside = np.ones(lit.shape[:2], np.float32)
    area = cv2.remap(inside, where, None, cv2.INTER_LINEAR)  # type: ignore[call-overload]
    seen = cv2.remap(lit, where, None, cv2.INTER_LINEAR)  # type: ignore[call-overload]
    picture += area[..., None] * (seen - picture)
    if shot.vignette:
        x = (np.arange(width, dtype=np.float32) / width - 0.5)[None]
        y = (np.arange(height, dtype=np.float32) / height - 0.5)[:, None]
        picture *= (1.0 - shot.vignette * 2.0 * (x**2 + y**2))[..., None]
    return np.asarray(picture, dtype=np.float32)


def _page_points(
    lit: Pixels, height_mm: Pixels, shot: Shot, size_px: tuple[int, int]
) -> NDArray[np.float32]:
    """Give the page's pixel that each of the picture's sees, (h, w, 2)."""
    page_px = (lit.shape[1], lit.shape[0])
    fit = _perspective(page_px, shot, size_px)
    coarse = (size_px[0] // _COARSE + 2, size_px[1] // _COARSE + 2)
    x, y = np.meshgrid(*(np.arange(side) * float(_COARSE) for side in coarse))
    points = np.stack([x, y], axis=-1)
    middle = np.array(size_px) / 2.0
    out = (points - middle) / np.linalg.norm(middle)
    points = middle + (points - middle) * (1.0 + shot.lens * np.sum(out**2, axis=-1, keepdims=True))
    flat = cv2.perspectiveTransform(points.reshape(-1, 1, 2), np.linalg.inv(fit))
    where = flat.reshape(points.shape)
    if shot.curl_mm or shot.wrinkle_mm:
        where = _lifted(where, height_mm, shot)
    wide = cv2.resize(
        where.astype(np.float32),
        (coarse[0] * _COARSE, coarse[1] * _COARSE),
        interpolation=cv2.INTER_LINEAR,
    )
    # Resizing puts coarse point n at fine place (n + 0.5) x _COARSE - 0.5.
    shift = _COARSE / 2.0 - 0.5
    move = np.array([[1.0, 0.0, shift], [0.0, 1.0, shift]])
    return np.asarray(
        cv2.warpAffine(
            wide,
            move,
            size_px,
            flags=cv2.INTER_LINEAR | cv2.WARP_INVERSE_MAP,
            borderMode=cv2.BORDER_REPLICATE,
        )
    )


def _lifted(where: NDArray[np.float64], height_mm: Pixels, shot: Shot) -> NDArray[np.float64]:
    """Find which point of the risen paper a ray to a point of the desk meets first, nearly."""
    height, width = (side * COARSE for side in height_mm.shape)
    px_per_mm = width / PAGE_WIDTH_MM
    middle = np.array([width, height]) / 2.0
    tilt, around = np.radians(shot.tilt), np.radians(shot.fall_towards)
    # The lens stands over the page's middle, leaning along the tilt.
    lens = middle - np.array([-np.sin(around), np.cos(around)]) * np.sin(tilt) * _EYE * width
    high = _EYE * width * np.cos(tilt)
    met = where
    for _ in range(3):
        at = (met / COARSE).astype(np.float32)
        rise = cv2.remap(  # type: ignore[call-overload]
            height_mm, at, None, cv2.INTER_LINEAR, borderMode=cv2.BORDER_REPLICATE
        )
        met = where + (lens - where) * (rise * px_per_mm / high)[..., None]
    return np.asarray(met)


def _desk(size_px: tuple[int, int], rng: Generator) -> Pixels:
    width, height = size_px
    tone = rng.uniform(0.05, 0.35)
    coarse = rng.normal(1.0, 0.12, (24, 6, 1)).astype(np.float32)
    grain = cv2.resize(coarse, (width, height), interpolation=cv2.INTER_CUBIC)
    wood = np.array([1.15, 1.0, 0.8], np.float32) * np.float32(tone)
    return np.asarray(np.clip(grain, 0.4, 1.6)[..., None] * wood, dtype=np.float32)


def _perspective(
    page_px: tuple[int, int], shot: Shot, size_px: tuple[int, int]
) -> NDArray[np.float64]:
    """Project the page's corners through a pinhole at twice the sheet's width."""
    width, height = page_px
    corners = np.array([[0, 0], [width, 0], [width, height], [0, height]], dtype=float)
    flat = (corners - [width / 2.0, height / 2.0]) / width
    tilt, turn = np.radians(shot.tilt), np.radians(shot.turn)
    around = np.radians(shot.fall_towards)
    axis = np.array([np.cos(around), np.sin(around)])
    lean = flat @ np.array([-axis[1], axis[0]])
    # Rotate about `axis` in the page's plane: distances across it foreshorten and recede.
    across = np.outer(lean, [-axis[1], axis[0]])
    leaned = flat - across + across * np.cos(tilt)
    depth = _EYE + lean * np.sin(tilt)
    seen = _EYE * leaned / depth[:, None]
    spin = np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])
    seen = seen @ spin.T
    seen -= (seen.max(axis=0) + seen.min(axis=0)) / 2.0
    room = np.array(size_px) / (seen.max(axis=0) - seen.min(axis=0))
    place = seen * room.min() * shot.fill + np.array(size_px) / 2.0
    return np.asarray(
        cv2.getPerspectiveTransform(corners.astype(np.float32), place.astype(np.float32))
    )


def _developed(picture: Pixels, shot: Shot) -> bytes:
    if shot.space is not Space.SRGB:
        picture = picture @ from_linear_srgb(shot.space).T.astype(np.float32)
    index = np.clip(picture * 4095.0, 0, 4095).astype(np.uint16)
    file = _ENCODED[shot.space][index]
    bend = shot.contrast * (file - 0.5) * file * (1.0 - file) * 4.0
    stored = np.rint(np.clip(file + bend, 0.0, 1.0) * 255.0).astype(np.uint8)
    # EXIF says how far the stored picture must be turned to stand upright.
    stored = np.rot90(stored, k=_TURNS[shot.orientation])
    image = Image.fromarray(np.ascontiguousarray(stored))
    exif = Image.Exif()
    exif[_EXIF_ORIENTATION] = shot.orientation
    if shot.model:
        exif[_EXIF_MODEL] = shot.model
    out = BytesIO()
    image.save(out, "JPEG", quality=shot.quality, exif=exif, icc_profile=icc_profile(shot.space))
    return out.getvalue()
