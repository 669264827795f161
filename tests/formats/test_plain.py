"""Values and plain values have one shape, and what is wrong is named with its place."""

from dataclasses import dataclass

import pytest

from noema.core.errors import BadFile
from noema.core.judging.verdict import Verdict
from noema.formats.plain import from_plain, to_plain


@dataclass(frozen=True, kw_only=True)
class Kept:
    lab: tuple[float, float, float]
    verdict: Verdict
    sigma: float = 1.0
    more: tuple[int, ...] = ()


def test_values_come_back_as_they_were_but_for_rounding():
    kept = Kept(lab=(50.12345, 1.0, -2.5), verdict=Verdict.HOLDS, sigma=0.123456, more=(1, 2))
    plain = to_plain(kept, {"lab": 2, "sigma": 4})
    assert plain == {
        "lab": [50.12, 1.0, -2.5],
        "verdict": "holds",
        "sigma": 0.1235,
        "more": [1, 2],
    }
    assert from_plain(Kept, plain, "thing") == Kept(
        lab=(50.12, 1.0, -2.5), verdict=Verdict.HOLDS, sigma=0.1235, more=(1, 2)
    )


@pytest.mark.parametrize(
    ("given", "place"),
    [
        ({"lab": [1.0, 2.0], "verdict": "holds"}, r"lab"),
        ({"lab": [1.0, 2.0, 3.0], "verdict": "perfect"}, r"verdict"),
        ({"lab": [1.0, 2.0, 3.0]}, r"verdict"),
        ([], r"object"),
    ],
)
def test_what_is_wrong_is_named(given, place):
    with pytest.raises(BadFile, match=f"The thing is incomplete or has a wrong value: .*{place}"):
        from_plain(Kept, given, "thing")
