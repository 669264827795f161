"""The laws of mixing by hand: nothing is lost, and the same acts give the same palette."""

from functools import reduce
from types import MappingProxyType

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from noema.core.bench.acts import (
    CLINGS_ML,
    Bench,
    LetDown,
    begin_pile,
    dry,
    fresh_water,
    halve,
    mix,
    rinse,
    wipe,
)
from noema.core.bench.palette import Palette, total
from noema.core.bench.seen import colours_of
from noema.core.errors import BadPaint, Refused
from noema.core.pigments.shelf import builtin_set

BENCH = Bench(paints=builtin_set("split-six+black"))
TUBES = [tube.name for tube in BENCH.paints.tubes]
COLOURS = [name for name in TUBES if name != BENCH.paints.tube("white").name]
SAME_ML = 1e-9
DARKENS = 0.05  # of L*: white itself absorbs a little at the violet end

LAW = settings(deadline=None)  # the first example loads tables
ml = st.floats(0.05, 4.0)
tubes = st.sampled_from(TUBES)
piles = st.sampled_from(["a", "b", "c"])
acts = st.lists(
    st.one_of(
        st.tuples(st.just("squeeze"), tubes, ml),
        st.tuples(st.just("take"), st.one_of(tubes, piles), ml, piles),
        st.tuples(st.just("let-down"), piles, st.sampled_from(LetDown), ml),
        st.tuples(st.just("mix"), piles),
        st.tuples(st.just("halve"), piles, piles),
        st.tuples(st.just("pile"), piles),
        st.tuples(st.just("dry"), piles),
        st.tuples(st.just("wipe")),
        st.tuples(st.just("rinse")),
        st.tuples(st.just("fresh water")),
    ),
    max_size=30,
)
WAYS = {
    "squeeze": BENCH.squeeze,
    "take": BENCH.take,
    "let-down": BENCH.let_down,
    "mix": mix,
    "halve": halve,
    "pile": begin_pile,
    "dry": dry,
    "wipe": wipe,
    "rinse": rinse,
    "fresh water": fresh_water,
}


def done(palette, act):
    """Do an act; what can't be done leaves the palette as it is."""
    try:
        return WAYS[act[0]](palette, *act[1:])
    except Refused:
        return palette


@LAW
@given(acts)
def test_paint_is_conserved_whatever_is_done(given_acts):
    palette = Palette()
    for act in given_acts:
        palette = done(palette, act)
        found, squeezed = total(palette), palette.squeezed
        for tube in {*found, *squeezed}:
            assert found.get(tube, 0.0) == pytest.approx(squeezed.get(tube, 0.0), abs=SAME_ML)
        everywhere = [
            palette.dabs,
            palette.knife,
            palette.waste,
            palette.jar,
            *map(lambda p: p.paint, palette.piles.values()),
        ]
        assert all(amount >= 0.0 for paint in everywhere for amount in paint.values())


@LAW
@given(acts)
def test_the_same_acts_give_the_same_palette(given_acts):
    assert reduce(done, given_acts, Palette()) == reduce(done, given_acts, Palette())


def taken(order, *, wiping=True):
    palette = begin_pile(Palette(), "a")
    for tube, amount in order:
        palette = BENCH.take(BENCH.squeeze(palette, tube, amount), tube, amount, "a")
        palette = wipe(palette) if wiping else palette
    return palette


@LAW
@given(
    st.lists(
        st.tuples(st.sampled_from(TUBES), ml), min_size=2, max_size=6, unique_by=lambda x: x[0]
    )
)
def test_with_a_wiped_knife_the_order_doesnt_matter(order):
    one, other = (taken(way).pile("a").paint for way in (order, order[::-1]))
    assert dict(one) == pytest.approx(dict(other))


def test_an_unwiped_knife_brings_along_what_clung_to_it():
    order = [("phthalo-blue", 1.0), ("lemon-yellow", 1.0)]
    clean, dirty = taken(order), taken(order, wiping=False)
    assert clean.waste == {"phthalo-blue": CLINGS_ML, "lemon-yellow": CLINGS_ML}
    assert dirty.waste == {}
    more = dirty.pile("a").paint["phthalo-blue"] - clean.pile("a").paint["phthalo-blue"]
    assert more == pytest.approx(CLINGS_ML)
    begun = begin_pile(dirty, "b")
    squeezed = BENCH.squeeze(begun, "white", 2.0)
    spoilt = BENCH.take(squeezed, "white", 1.0, "b")
    assert spoilt.pile("b").paint["lemon-yellow"] == pytest.approx(CLINGS_ML)


@LAW
@given(st.dictionaries(st.sampled_from(COLOURS), ml, min_size=1, max_size=4), ml)
def test_white_never_darkens(colours, white):
    palette = taken(colours.items())
    paler = BENCH.let_down(palette, "a", LetDown.WHITE, white)
    before, after = (colours_of(one, BENCH.paints)["a"].lab[0] for one in (palette, paler))
    assert after >= before - DARKENS


def test_water_shows_a_dark_mix_s_hue_over_paper():
    palette = taken([("phthalo-blue", 1.0)])
    thin = BENCH.let_down(palette, "a", LetDown.WATER, 9.0)
    before, after = (colours_of(one, BENCH.paints)["a"] for one in (palette, thin))
    assert after.lab[0] > before.lab[0] + 5.0
    assert after.hvc.chroma > before.hvc.chroma
    assert BENCH.take(begin_pile(thin, "b"), "a", 0.5, "b").pile("b").water_ml > 4.0


def test_dirty_water_comes_along_until_it_is_fresh():
    dirty = rinse(taken([("ivory-black", 1.0), ("scarlet", 1.0)], wiping=False))
    white = BENCH.take(BENCH.squeeze(begin_pile(dirty, "b"), "white", 2.0), "white", 1.0, "b")
    assert sum(dirty.jar.values()) == pytest.approx(CLINGS_ML)
    thin = BENCH.let_down(white, "b", LetDown.WATER, 20.0)
    assert thin.pile("b").paint["scarlet"] > 0.0
    clean = BENCH.let_down(fresh_water(white), "b", LetDown.WATER, 20.0)
    assert set(clean.pile("b").paint) == {"titanium-white"}


def test_a_tube_runs_out():
    small = Bench(paints=BENCH.paints, tube_holds_ml=3.0)
    palette = begin_pile(small.squeeze(Palette(), "white", 2.0), "a")
    with pytest.raises(Refused, match="holds only 1.00 ml more"):
        small.squeeze(palette, "white", 1.5)
    with pytest.raises(Refused, match="holds only 1.00 ml more"):
        small.let_down(palette, "a", LetDown.WHITE, 1.5)
    assert small.left_ml(small.let_down(palette, "a", LetDown.WHITE, 1.0), "titanium-white") == 0.0


def test_acrylic_is_lighter_wet_than_dry():
    colour = colours_of(taken([("scarlet", 1.0)]), BENCH.paints)["a"]
    assert colour.wet_lab[0] > colour.lab[0]


def test_half_is_set_aside():
    palette = halve(taken([("scarlet", 2.0)]), "a", "kept")
    assert palette.pile("a") == palette.pile("kept")
    assert palette.pile("a").ml == pytest.approx((2.0 - CLINGS_ML) / 2.0)


@pytest.mark.parametrize(
    ("act", "sentence"),
    [
        (("take", "scarlet", 3.0, "a"), "only 1.00 ml"),
        (("take", "rose", 0.1, "a"), "only 0.00 ml"),
        (("take", "scarlet", 0.1, "nowhere"), "no pile “nowhere”"),
        (("take", "a", 0.1, "a"), "another place"),
        (("squeeze", "scarlet", 0.0), "above 0"),
        (("squeeze", "scarlet", float("nan")), "above 0"),
        (("squeeze", "scarlet", 199.5), "No palette holds"),
        (("mix", "a"), "nothing in the pile"),
        (("pile", "a"), "already"),
        (("halve", "a", "a"), "already"),
    ],
)
def test_what_cant_be_done_is_said_and_changes_nothing(act, sentence):
    palette = begin_pile(BENCH.squeeze(Palette(), "scarlet", 1.0), "a")
    with pytest.raises(Refused, match=sentence):
        WAYS[act[0]](palette, *act[1:])


def test_a_tube_that_isnt_there_and_a_dry_pile_are_said():
    with pytest.raises(BadPaint, match="no “gold”"):
        BENCH.squeeze(Palette(), "gold", 1.0)
    palette = dry(taken([("scarlet", 1.0)]), "a")
    for work in (lambda: mix(palette, "a"), lambda: halve(palette, "a", "b")):
        with pytest.raises(Refused, match="is dry"):
            work()
    assert isinstance(palette.piles, MappingProxyType)  # nobody changes it by the way
