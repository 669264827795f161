"""What is said of paint held against a spot is true, and what is advised helps."""

from dataclasses import replace

import numpy as np
from numpy.random import default_rng

from noema.core.colour.difference import ciede2000
from noema.core.colour.hvc import hvc_of
from noema.core.colour.names import USUAL_HUES
from noema.core.photo.reading import CellReading
from noema.core.pictures.held import say_held
from noema.core.pigments.mix import lab_of_parts
from noema.core.pigments.recipe import recipe
from noema.core.pigments.says import say_parts
from noema.core.pigments.shelf import builtin_set

SIX = builtin_set("split-six")
DRY = SIX.binder.dry


def reading(lab, sigma=1.0):
    return CellReading(
        id="window",
        lab=tuple(lab),
        hvc=hvc_of(lab),
        sigma=sigma,
        sigma_value=0.06 * sigma,
        sigma_step=0.05 * sigma,
        sigma_hue=1.2 * sigma,
        sigma_chroma=0.25 * sigma,
        coverage=1.0,
        unevenness=0.0,
        spill=0.0,
        flags=(),
    )


def said_of(true_lab, target, sigma, rng):
    """What is said where the reader is off by as much as it says."""
    off = rng.normal(0.0, 0.6 * sigma, 3)
    made = recipe(target, SIX.tubes, DRY)
    return say_held(reading(np.array(true_lab) + off, sigma), made.lab, made, SIX, USUAL_HUES), made


def some_pairs(count):
    """A target these tubes can give, and a pile that misses it by a wrong amount of one tube."""
    rng = default_rng(8)
    for _ in range(count):
        target = (rng.uniform(35, 80), rng.uniform(-30, 40), rng.uniform(-25, 45))
        made = recipe(target, SIX.tubes, DRY)
        if len(made.parts) < 2:
            continue
        wrong = int(rng.integers(len(made.parts)))
        parts = [
            replace(
                part,
                amount=part.amount * (float(np.exp(rng.normal(0, 0.9))) if n == wrong else 1.0),
            )
            for n, part in enumerate(made.parts)
        ]
        yield tuple(lab_of_parts(parts, DRY).tolist()), made.lab, rng


def test_what_is_said_to_be_off_is_off():
    claims = []
    for pile, target, rng in some_pairs(80):
        said, made = said_of(pile, target, 1.5, rng)
        one, two = hvc_of(pile), hvc_of(made.lab)
        true = {
            "too light": one.value > two.value,
            "too dark": one.value < two.value,
            "too intense": one.chroma > two.chroma,
            "too grey": one.chroma < two.chroma,
        }
        claims += [true[words] for words in said.off if words in true]
    assert len(claims) > 30
    assert np.mean(claims) >= 0.95


def test_nothing_is_said_to_be_off_where_the_reader_cannot_tell():
    lab = (55.0, 20.0, 10.0)
    made = recipe(lab, SIX.tubes, DRY)
    near = (made.lab[0] + 0.4, made.lab[1], made.lab[2])
    said = say_held(reading(near), made.lab, made, SIX, USUAL_HUES)
    assert said.off == ()
    assert said.move.startswith("As near as the photograph can tell")


def test_another_colour_is_mixed_afresh():
    target = recipe((70.0, -10.0, 40.0), SIX.tubes, DRY)
    said = say_held(reading((35.0, 35.0, 10.0)), target.lab, target, SIX, USUAL_HUES)
    assert said.move == f"Mix it afresh: {say_parts(target.parts)}."
    assert "too dark" in said.off


def test_an_addition_that_is_advised_brings_the_true_pile_nearer():
    helped = []
    for pile, target, rng in some_pairs(60):
        said, made = said_of(pile, target, 1.0, rng)
        if "dd " not in said.move:
            continue
        tube = next(one for one in SIX.tubes if f" {one.label}," in said.move)
        share = _share_said(said.move)
        before = ciede2000(pile, made.lab)
        found = recipe(pile, SIX.tubes, DRY)
        whole = sum(part.amount for part in found.parts)
        added = [replace(part, amount=part.amount / whole) for part in found.parts]
        after_lab = lab_of_parts([*added, replace(added[0], tube=tube, amount=share)], DRY)
        helped.append(ciede2000(after_lab, made.lab) < before)
    assert len(helped) > 12
    assert np.mean(helped) >= 0.85


def _share_said(words):
    """The amount a painter would take from the words."""
    if "1 part to" in words:
        return 1.0 / float(words.split("1 part to ")[1].rstrip(".").split()[0])
    return 0.85 if "nearly" in words else 1.0
