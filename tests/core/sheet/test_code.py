"""Codes a person can read aloud."""

from random import Random

import pytest

from noema.core.errors import BadSheet
from noema.core.sheet.code import checked_code, code_of, draw_stem


def test_drawn_codes_are_good_codes():
    stems = {draw_stem(Random(seed)) for seed in range(300)}
    assert len(stems) > 290
    for stem in stems:
        assert checked_code(code_of(stem, 7)) == f"{stem}-07"
    assert not set("".join(stems)) & set("BGIOSZ015689")


@pytest.mark.parametrize("text", ["", "K7Q2", "K7Q2-4x", "K7O2-04", "../etc", "K7Q2-0004"])
def test_anything_else_is_refused(text):
    with pytest.raises(BadSheet, match="K7Q2-04"):
        checked_code(text)
