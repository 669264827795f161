"""The light on a page: lamps, shadows, shine."""

import cv2
import numpy as np
from numpy.random import Generator
from numpy.typing import NDArray

from noema.stand_ins.shot import Shot

Pixels = NDArray[np.float32]

COARSE = 8
"""Pixels of a page over which light and the rise of paper are worked out once."""

_COOLER = np.array([0.97, 1.0, 1.04], np.float32)  # shade is lit by the room, not the lamp
_LAMP_TINT = np.array([1.0, 0.0, -1.0], np.float32)
_WHITEST = 0.87  # reflectance of paper, about
_PAPER_SHINE = 0.04  # of paint's: print paper is dull
_STREAKS = 5.0  # mm: brush marks break a reflection up
_SLOPE_SHADE = 1.2  # how much light a slope of 1 loses


def light_on(
    page: Pixels, shot: Shot, px_per_mm: float, height_mm: Pixels, rng: Generator
) -> Pixels:
    """Light a page (h, w, 3) that rises by `height_mm`, known coarsely: lamps, slopes, shadow."""
    x, y = _across(height_mm.shape)
    angle = np.radians(shot.fall_towards)
    along = np.cos(angle) * x + np.sin(angle) * y
    reach = (abs(np.cos(angle)) + abs(np.sin(angle))) / 2.0
    # Light from one side falls off with the square of the distance to the lamp.
    ratio = np.sqrt(1.0 / (1.0 - shot.fall_off))
    distance = 1.0 + (ratio - 1.0) * (along / reach + 1.0) / 2.0
    light = shot.exposure / _WHITEST / distance**2
    if shot.curl_mm or shot.wrinkle_mm:
        slope = np.gradient(height_mm, axis=1) * np.cos(angle)
        slope += np.gradient(height_mm, axis=0) * np.sin(angle)
        light = light * (1.0 - _SLOPE_SHADE * np.clip(slope * px_per_mm / COARSE, -0.3, 0.3))
    gain = light[..., None] * np.exp(shot.second_lamp * along[..., None] / reach * _LAMP_TINT)
    if shot.shadow:
        shade = _shade(height_mm.shape, shot, px_per_mm / COARSE, rng)[..., None]
        gain = gain * (1.0 - shade) * (1.0 + shade * (_COOLER - 1.0))
    return np.asarray(page * _widened(gain, page.shape, cv2.INTER_LINEAR), dtype=np.float32)


def shine_on(
    page: Pixels, printed: Pixels, shot: Shot, px_per_mm: float, rng: Generator
) -> NDArray[np.float32]:
    """Give the light (h, w) that wet or glossy paint throws back, as a share of white paper's."""
    shape = page.shape[:2]
    if not shot.glare:
        return np.zeros(shape, np.float32)
    height, width = shape
    middle = np.array([rng.uniform(0.2, 0.8) * width, rng.uniform(0.25, 0.75) * height])
    long, short = shot.glare_mm * px_per_mm * np.array([1.0, rng.uniform(0.4, 1.0)])
    turn = rng.uniform(0.0, np.pi)
    x = np.arange(width, dtype=np.float32)[None] - middle[0]
    y = np.arange(height, dtype=np.float32)[:, None] - middle[1]
    first = (np.cos(turn) * x + np.sin(turn) * y) / long
    second = (np.cos(turn) * y - np.sin(turn) * x) / short
    lobe = np.exp(-(first**2 + second**2))
    coarse = rng.normal(0.0, 1.0, [max(4, round(side / (_STREAKS * px_per_mm))) for side in shape])
    broken = np.clip(1.0 + 0.35 * _widened(coarse, shape), 0.0, None)
    painted = np.abs(page - printed).max(axis=2) > 0.02
    gloss = np.where(painted, 1.0, _PAPER_SHINE)
    return np.asarray(shot.glare * lobe * broken * gloss, dtype=np.float32)


def curled(size_px: tuple[int, int], shot: Shot, rng: Generator) -> Pixels:
    """Give how far the paper rises from the desk, in mm, every COARSE pixels of a size (h, w)."""
    shape = (size_px[0] // COARSE, size_px[1] // COARSE)
    x, y = _across(shape)
    angle = rng.uniform(0.0, np.pi)
    along = (np.cos(angle) * x + np.sin(angle) * y) * 2.0
    lean = rng.uniform(-0.4, 0.4)
    rise = shot.curl_mm * (np.abs(along - lean) ** 2.2) / (1.0 + abs(lean)) ** 2.2
    wrinkles = shot.wrinkle_mm * _widened(rng.normal(0.0, 1.0, (7, 5)), shape)
    return np.asarray(rise + wrinkles, dtype=np.float32)


def _shade(shape: tuple[int, ...], shot: Shot, px_per_mm: float, rng: Generator) -> Pixels:
    """Give the share of light taken away: a straight-edged phone or arm with a soft border."""
    angle, place = rng.uniform(0.0, 2.0 * np.pi), rng.uniform(-0.3, 0.3)
    x, y = _across(shape)
    across = np.cos(angle) * x + np.sin(angle) * y + 0.08 * np.sin(6.0 * (x - y)) - place
    soft = shot.shadow_mm * px_per_mm / shape[0]
    edge = 1.0 / (1.0 + np.exp(-np.clip(across / (0.4 * soft), -40.0, 40.0)))
    return np.asarray(shot.shadow * edge, dtype=np.float32)


def _across(shape: tuple[int, ...]) -> tuple[Pixels, Pixels]:
    """Give x (1, w) and y (h, 1), each -0.5 to 0.5 over the page."""
    x = (np.arange(shape[1], dtype=np.float32) / shape[1] - 0.5)[None, :]
    y = (np.arange(shape[0], dtype=np.float32) / shape[0] - 0.5)[:, None]
    return x.astype(np.float32), y.astype(np.float32)


def _widened(
    coarse: NDArray[np.float64], shape: tuple[int, ...], how: int = cv2.INTER_CUBIC
) -> Pixels:
    wide = cv2.resize(coarse.astype(np.float32), (shape[1], shape[0]), interpolation=how)
    return np.asarray(wide, dtype=np.float32)
