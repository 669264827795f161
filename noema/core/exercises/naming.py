"""What a cell is called where its row isn't in sight."""

from collections import Counter

from noema.core.exercises.asked import Arrangement, Asked, AskedCell, Band, Even
from noema.core.language import gettext


def cell_names(asked: Asked) -> dict[str, str]:
    """Give every cell's name by id: a step's number, a hue, or a row and what stands in it."""
    whole = Counter(cell.label for cell in asked.cells)
    if asked.arrangement is Arrangement.WHEEL:
        named = _on_wheel(asked)
    else:
        named = {
            cell.id: _in_row(band, n, whole, alone=len(asked.bands) == 1)
            for band in asked.bands
            for n, cell in enumerate(band.cells)
        }
    return _told_apart(named)


def _on_wheel(asked: Asked) -> dict[str, str]:
    pure = next(band for band in asked.bands if band.even is Even.HUE)
    return {
        cell.id: hue.label
        if band is pure
        else gettext("%(hue)s, %(ring)s", hue=hue.label, ring=band.label)
        for band in asked.bands
        for cell, hue in zip(band.cells, pure.cells, strict=True)
    }


def _in_row(band: Band, n: int, whole: Counter[str], *, alone: bool) -> str:
    cell = band.cells[n]
    label = cell.label or str(n + 1)
    stands_alone = alone or not label.startswith(("+", *"0123456789"))
    if cell.label and whole[cell.label] == 1 and stands_alone:
        return label
    within = sum(other.label == cell.label for other in band.cells)
    belongs = cell.label and not cell.is_end and (within > 1 or not band.label)
    end = _end_of(band, n) if belongs else None
    if end is not None:
        return gettext("%(row)s %(cell)s", row=end.label, cell=label)
    return gettext("%(row)s %(cell)s", row=band.label, cell=label) if band.label else label


def _end_of(band: Band, n: int) -> AskedCell | None:
    """Find the end a cell belongs to: the one before it, or past the neutral the one after."""
    before = next((m for m in range(n, -1, -1) if band.cells[m].is_end), None)
    crossed = any(c.role.stands_apart for c in band.cells[before or 0 : n])
    if before is not None and not crossed:
        return band.cells[before]
    return next((cell for cell in band.cells[n:] if cell.is_end), None)


def _told_apart(named: dict[str, str]) -> dict[str, str]:
    seen: Counter[str] = Counter()
    apart = {}
    for cell_id, name in named.items():
        seen[name] += 1
        apart[cell_id] = name if seen[name] == 1 else f"{name} ({seen[name]})"
    return apart
