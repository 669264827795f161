"""Several sheets in one photograph: whose mark is which."""

from collections.abc import Mapping, Sequence

import cv2
import numpy as np
from numpy.typing import NDArray

from noema.core.photo.marks import FoundMarks
from noema.core.photo.parameters.identify import IDENTIFY, IdentifyParameters
from noema.core.sheet.layout import Marker, Polygon

Floats = NDArray[np.float64]


def sheets_in(
    found: FoundMarks, markers: Sequence[Marker], parameters: IdentifyParameters = IDENTIFY
) -> tuple[FoundMarks, ...]:
    """Sort marks into sheets, the topmost and leftmost first.

    Every sheet of a paper carries the same marks, so where one is seen twice there are two sheets.
    A mark shows where its sheet's others should be; the nearest of each joins it.
    """
    known: Mapping[int, Polygon] = {m.id: m.corners_mm for m in markers}
    ours = [n for n, mark in enumerate(found.ids) if mark in known]
    if len({found.ids[n] for n in ours}) == len(ours):
        return (found,)
    left = sorted(ours, key=lambda n: -_size(found.corners_px[n]))
    sheets = []
    while left:
        group = _grown([left[0]], left, found, known, parameters)
        left = [n for n in left if n not in group]
        if len(group) >= parameters.fewest_if_sound:
            sheets.append(_only(found, sorted(group)))
    return tuple(sorted(sheets, key=_place))


def _grown(
    group: list[int],
    left: Sequence[int],
    found: FoundMarks,
    known: Mapping[int, Polygon],
    parameters: IdentifyParameters,
) -> list[int]:
    while True:
        wanted = set(known) - {found.ids[n] for n in group}
        free = [n for n in left if n not in group and found.ids[n] in wanted]
        back = _to_page(group, found, known)
        if not free or back is None:
            return group
        misses = [_miss(n, group, found, known, back, parameters) for n in free]
        best = int(np.argmin(misses))
        if misses[best] > 1.0:
            return group
        group = [*group, free[best]]


def _miss(
    candidate: int,
    group: Sequence[int],
    found: FoundMarks,
    known: Mapping[int, Polygon],
    back: Floats,
    parameters: IdentifyParameters,
) -> float:
    """Give how far a mark lies from where the group's page has it, over how far it may."""
    there = np.mean(known[found.ids[candidate]], axis=0)
    seen = cv2.perspectiveTransform(found.corners_px[candidate].reshape(-1, 1, 2), back)
    others = np.array([np.mean(known[found.ids[n]], axis=0) for n in group])
    reach = float(np.linalg.norm(others - there, axis=1).min())
    away = float(np.linalg.norm(seen.reshape(-1, 2).mean(axis=0) - there))
    return away / (parameters.near_share * reach + parameters.near_mm)


def _to_page(
    group: Sequence[int], found: FoundMarks, known: Mapping[int, Polygon]
) -> Floats | None:
    page = np.concatenate([known[found.ids[n]] for n in group])
    picture = np.concatenate([found.corners_px[n] for n in group])
    solved, _ = cv2.findHomography(picture, page)
    return None if solved is None else np.asarray(solved, dtype=np.float64)


def _size(corners_px: Floats) -> float:
    return float(cv2.contourArea(corners_px.astype(np.float32)))


def _only(found: FoundMarks, kept: Sequence[int]) -> FoundMarks:
    return FoundMarks(
        ids=tuple(found.ids[n] for n in kept), corners_px=found.corners_px[list(kept)]
    )


def _place(sheet: FoundMarks) -> tuple[float, float]:
    x, y = sheet.corners_px.reshape(-1, 2).mean(axis=0)
    return float(y), float(x)
