"""A phone's camera over a desk: perspective, lamp, blur, noise, tone curve, JPEG, EXIF."""

from dataclasses import dataclass
from io import BytesIO

import cv2
import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray
from PIL import Image

from noema.core.colour.srgb import linear_to_srgb

Pixels = NDArray[np.float32]

_EXIF_ORIENTATION = 0x0112
_TURNS = {1: 0, 6: 1, 3: 2, 8: 3}  # EXIF value: quarter turns the stored picture is off by
_ENCODED = linear_to_srgb(np.linspace(0.0, 1.0, 4096)).astype(np.float32)


@dataclass(frozen=True, kw_only=True)
class Shot:
    """One way of taking a photograph; angles in degrees, lights relative."""

    tilt: float = 8.0  # off square, any direction
    turn: float = 4.0  # rotation in the picture plane
    fill: float = 0.86  # of the picture's side that the sheet takes
    fall_off: float = 0.12  # how much darker one end of the page is, 0..1
    fall_towards: float = 0.0  # direction of the dark end
    exposure: float = 0.8  # where the brightest paper lands, linear
    contrast: float = 0.0  # S-curve over sRGB; 0.3 is a vivid phone
    blur_px: float = 0.9
    noise: float = 0.006  # of the signal's square root
    quality: int = 90  # JPEG
    orientation: int = 1  # EXIF


def aim(preset: str, rng: Generator) -> Shot:
    """Take the picture the way a preset's people do."""
    easy = preset == "easy"
    hard = preset == "hard"
    return Shot(
        tilt=rng.uniform(0.0, 12.0 if easy else 35.0 if hard else 25.0),
        turn=rng.uniform(-8.0, 8.0) if easy else rng.uniform(-180.0, 180.0),
        fill=rng.uniform(0.8, 0.9) if easy else rng.uniform(0.62, 0.85),
        fall_off=rng.uniform(0.0, 0.2 if easy else 0.5 if hard else 0.34),
        fall_towards=rng.uniform(0.0, 360.0),
        exposure=rng.uniform(0.72, 0.86) if easy else rng.uniform(0.55, 0.92),
        contrast=rng.normal(0.0, 0.04 if easy else 0.12),
        blur_px=rng.uniform(0.6, 1.2) if easy else rng.uniform(0.8, 4.0 if hard else 2.2),
        noise=rng.uniform(0.003, 0.007) if easy else rng.uniform(0.005, 0.015),
        quality=int(rng.integers(88, 95)) if easy else int(rng.integers(78, 93)),
        orientation=int(rng.choice([1, 3, 6, 8])),
    )


def photograph(page: Pixels, shot: Shot, size_px: tuple[int, int], rng: Generator) -> bytes:
    """Photograph a page (h, w, 3) of linear reflectance as a JPEG of width x height pixels."""
    scene = _lit(page, shot)
    width, height = size_px
    picture = _desk(size_px, rng)
    fit = _perspective((page.shape[1], page.shape[0]), shot, size_px)
    area = cv2.warpPerspective(np.ones(page.shape[:2], np.float32), fit, size_px)
    seen = cv2.warpPerspective(scene, fit, size_px, flags=cv2.INTER_AREA)
    picture += area[..., None] * (seen - picture)
    scale = max(width, height) / 4032.0
    picture = cv2.GaussianBlur(picture, (0, 0), max(shot.blur_px * scale, 0.3))
    grain = rng.standard_normal((height, width, 3), dtype=np.float32)
    picture += grain * shot.noise * np.sqrt(np.maximum(picture, 0.0005))
    return _developed(picture, shot)


def _lit(page: Pixels, shot: Shot) -> Pixels:
    height, width = page.shape[:2]
    angle = np.radians(shot.fall_towards)
    x = (np.arange(width, dtype=np.float32) / width - 0.5)[None, :]
    y = (np.arange(height, dtype=np.float32) / height - 0.5)[:, None]
    along = np.cos(angle) * x + np.sin(angle) * y
    reach = (abs(np.cos(angle)) + abs(np.sin(angle))) / 2.0
    # Light from one side falls off with the square of the distance to the lamp.
    ratio = np.sqrt(1.0 / (1.0 - shot.fall_off))
    distance = 1.0 + (ratio - 1.0) * (along / reach + 1.0) / 2.0
    light = shot.exposure / 0.87 / distance**2
    return np.asarray(page * light[..., None], dtype=np.float32)


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
    depth = 2.0 + lean * np.sin(tilt)
    seen = 2.0 * leaned / depth[:, None]
    spin = np.array([[np.cos(turn), -np.sin(turn)], [np.sin(turn), np.cos(turn)]])
    seen = seen @ spin.T
    seen -= (seen.max(axis=0) + seen.min(axis=0)) / 2.0
    room = np.array(size_px) / (seen.max(axis=0) - seen.min(axis=0))
    place = seen * room.min() * shot.fill + np.array(size_px) / 2.0
    return np.asarray(
        cv2.getPerspectiveTransform(corners.astype(np.float32), place.astype(np.float32))
    )


def _developed(picture: Pixels, shot: Shot) -> bytes:
    index = np.clip(picture * 4095.0, 0, 4095).astype(np.uint16)
    encoded = _ENCODED[index]
    bend = shot.contrast * (encoded - 0.5) * encoded * (1.0 - encoded) * 4.0
    stored = np.rint(np.clip(encoded + bend, 0.0, 1.0) * 255.0).astype(np.uint8)
    # EXIF says how far the stored picture must be turned to stand upright.
    stored = np.rot90(stored, k=_TURNS[shot.orientation])
    image = Image.fromarray(np.ascontiguousarray(stored))
    exif = Image.Exif()
    exif[_EXIF_ORIENTATION] = shot.orientation
    out = BytesIO()
    image.save(out, "JPEG", quality=shot.quality, exif=exif)
    return out.getvalue()
