"""One way of taking a photograph, and how people of each preset take theirs."""

from dataclasses import dataclass, replace

from numpy.random import Generator

from noema.stand_ins.colour_file import Space

PRESETS = {"easy": 0.0, "class": 1.0, "hard": 1.0, "bad": 1.0}
"""Preset: how ordinary the printer and paper are."""

_P3_SHARE = 0.4  # of phones write a wider colour space
_CONTRAST_A_PICTURE = 0.03  # one sigma of what a phone's curve changes with what it sees
_VERY_VIVID, _LIFTING = 0.15, 0.25  # shares of phones


@dataclass(frozen=True, kw_only=True)
class Shot:
    """One way of taking a photograph; angles in degrees, lights relative."""

    tilt: float = 8.0  # off square, any direction
    turn: float = 4.0  # rotation in the picture plane
    fill: float = 0.86  # of the picture's side that the sheet takes
    fall_off: float = 0.12  # how much darker one end of the page is, 0..1
    fall_towards: float = 0.0  # direction of the dark end
    second_lamp: float = 0.0  # how much redder one side is than the other, in logarithms
    vignette: float = 0.0  # light lost in the picture's corners
    shadow: float = 0.0  # share of light a hand or the phone takes where it shades
    shadow_mm: float = 8.0  # how softly that shadow ends
    glare: float = 0.0  # light thrown back by glossy paint where it shines most, of white
    glare_mm: float = 35.0  # how wide it shines
    curl_mm: float = 0.0  # how far the paper rises
    wrinkle_mm: float = 0.0
    lens: float = 0.0  # barrel (<0) or cushion: shift at the picture's corner, of its half diagonal
    exposure: float = 0.8  # where the brightest paper lands, linear
    contrast: float = 0.0  # S-curve over sRGB; 0.3 is a vivid phone
    local_tone: float = 0.0  # how far dark parts of the picture are lifted: an exponent
    blur_px: float = 0.9
    noise: float = 0.006  # of the signal's square root
    space: Space = Space.SRGB
    quality: int = 90  # JPEG
    orientation: int = 1  # EXIF
    model: str = ""  # EXIF: which phone took it


def aim(preset: str, rng: Generator) -> Shot:
    """Take the picture the way a preset's people do."""
    if preset == "easy":
        return _careful(rng)
    if preset == "class":
        return _ordinary(rng)
    hard = _ordinary(rng)
    return replace(
        hard,
        tilt=rng.uniform(5.0, 35.0),
        fill=rng.uniform(0.62, 0.85),
        fall_off=rng.uniform(0.0, 0.45),
        second_lamp=rng.normal(0.0, 0.12),
        vignette=rng.uniform(0.0, 0.2),
        shadow=rng.uniform(0.15, 0.5) * (rng.random() < 0.6),
        shadow_mm=rng.uniform(3.0, 25.0),
        glare=rng.uniform(0.05, 0.6) * (rng.random() < 0.6),
        glare_mm=rng.uniform(20.0, 45.0),
        curl_mm=rng.uniform(0.0, 16.0),
        wrinkle_mm=rng.uniform(0.0, 1.2),
        lens=rng.normal(0.0, 0.012),
        blur_px=rng.uniform(0.8, 4.0),
    )


def by_phone(shot: Shot, phone: Generator, preset: str, rng: Generator) -> Shot:
    """Take a picture with a certain phone: what is its own is the same in all of its pictures."""
    own = _careful(phone) if preset == "easy" else _ordinary(phone)
    return replace(
        shot,
        contrast=own.contrast + rng.normal(0.0, _CONTRAST_A_PICTURE),
        local_tone=own.local_tone,
        lens=own.lens,
        vignette=own.vignette,
        noise=own.noise,
        space=own.space,
        quality=own.quality,
    )


def _careful(rng: Generator) -> Shot:
    return Shot(
        tilt=rng.uniform(0.0, 12.0),
        turn=rng.uniform(-8.0, 8.0),
        fill=rng.uniform(0.8, 0.9),
        fall_off=rng.uniform(0.0, 0.2),
        fall_towards=rng.uniform(0.0, 360.0),
        vignette=rng.uniform(0.0, 0.06),
        curl_mm=rng.uniform(0.0, 1.5),
        lens=rng.normal(0.0, 0.003),
        exposure=rng.uniform(0.72, 0.86),
        contrast=rng.normal(0.0, 0.04),
        blur_px=rng.uniform(0.6, 1.2),
        noise=rng.uniform(0.003, 0.007),
        space=_space(rng),
        quality=int(rng.integers(88, 95)),
        orientation=_orientation(rng),
    )


def _ordinary(rng: Generator) -> Shot:
    vivid, lifting = rng.spawn(2)
    return Shot(
        local_tone=lifting.uniform(0.03, 0.15) * (lifting.random() < _LIFTING),
        tilt=rng.uniform(0.0, 25.0),
        turn=rng.uniform(-180.0, 180.0),
        fill=rng.uniform(0.66, 0.85),
        fall_off=rng.uniform(0.0, 0.34),
        fall_towards=rng.uniform(0.0, 360.0),
        second_lamp=rng.normal(0.0, 0.03),
        vignette=rng.uniform(0.0, 0.12),
        shadow=rng.uniform(0.1, 0.3) * (rng.random() < 0.15),
        shadow_mm=rng.uniform(8.0, 30.0),
        glare=rng.uniform(0.02, 0.2) * (rng.random() < 0.15),
        glare_mm=rng.uniform(15.0, 30.0),
        curl_mm=rng.uniform(0.0, 5.0),
        wrinkle_mm=rng.uniform(0.0, 0.3),
        lens=rng.normal(0.0, 0.006),
        exposure=rng.uniform(0.55, 0.92),
        contrast=rng.normal(0.0, 0.12) + vivid.uniform(0.1, 0.25) * (vivid.random() < _VERY_VIVID),
        blur_px=rng.uniform(0.8, 2.2),
        noise=rng.uniform(0.005, 0.015),
        space=_space(rng),
        quality=int(rng.integers(78, 93)),
        orientation=_orientation(rng),
    )


def _space(rng: Generator) -> Space:
    return Space.DISPLAY_P3 if rng.random() < _P3_SHARE else Space.SRGB


def _orientation(rng: Generator) -> int:
    return int(rng.choice([1, 3, 6, 8]))
