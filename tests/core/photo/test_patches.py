"""What printed patches say, where some of them lie in a shadow's edge or under shine."""

import numpy as np
import pytest

from noema.core.photo.parameters.colour import COLOUR
from noema.core.photo.patches import SeenPatch, tone_of, unspoiled
from noema.core.sheet.layout import Patch, PatchKind

PAPER = COLOUR.paper
SENT = (56, 92, 128, 160, 192, 224)


def patch_seen(sent: int, number: int, dimmed: float = 1.0) -> SeenPatch:
    """Give a grey as a camera without a curve of its own sees it, in light dimmed at its place."""
    y = (sent / 255.0) ** 2.2
    lightness = 116.0 * np.cbrt(y * 0.87) - 16.0
    patch = Patch(
        id=f"g{sent}-{number}",
        kind=PatchKind.GREY,
        nominal_srgb=(sent, sent, sent),
        polygon_mm=((0.0, 0.0), (5.0, 0.0), (5.0, 5.0)),
        lab=(float(lightness), 0.0, 0.0),
        lab_sigma=0.6,
        lab_source="printer calibration",
    )
    return SeenPatch(patch=patch, rgb=np.full(3, y * dimmed), light=np.full(3, 0.8))


def four_of_each(dimmed: float) -> list[SeenPatch]:
    return [patch_seen(sent, n, dimmed if n == 0 else 1.0) for sent in SENT for n in range(4)]


@pytest.mark.parametrize("dimmed", [0.5, 1.6])
def test_a_patch_unlike_its_fellows_is_left_out(dimmed):
    seen = four_of_each(dimmed)
    kept = unspoiled(seen)
    assert {one.patch.id for one in seen} - {one.patch.id for one in kept} == {
        f"g{sent}-0" for sent in SENT
    }


def test_a_shadow_over_some_patches_leaves_the_curve_alone():
    light = np.full(3, 0.8)
    dark = np.full(3, 0.1)
    clear, shaded = (tone_of(unspoiled(four_of_each(dim)), PAPER)[0] for dim in (1.0, 0.5))
    fooled = tone_of(four_of_each(0.5), PAPER)[0]
    assert shaded.true(dark, light) == pytest.approx(clear.true(dark, light), rel=0.01)
    assert fooled.true(dark, light) != pytest.approx(clear.true(dark, light), rel=0.05)


def test_a_little_more_or_less_light_costs_no_patch():
    assert len(unspoiled(four_of_each(0.9))) == 24


def test_two_alone_cannot_say_which_is_spoiled():
    pair = [patch_seen(128, 0), patch_seen(128, 1, 0.5)]
    assert unspoiled(pair) == pair
