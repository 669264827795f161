"""An exercise's expectations as JSON, as `noema expect` prints them (docs/formats.md)."""

from noema.core.exercises.asked import Asked, AskedCell
from noema.formats.hvc_json import hvc_to_json

Json = dict[str, object]


def asked_to_json(asked: Asked) -> Json:
    """Give an exercise as plain values, cells in reading order."""
    return {
        "kind": asked.kind,
        "title": asked.title,
        "arrangement": asked.arrangement.value,
        "cells": [_cell(cell) for cell in asked.cells],
        "rows": [
            {
                "label": band.label,
                "even": band.even.value,
                "cells": [cell.id for cell in band.cells],
            }
            for band in asked.bands
        ],
        "concerns": [
            {
                "cells": list(concern.cells),
                "sentence": concern.sentence,
                "suggestion": concern.suggestion,
            }
            for concern in asked.concerns
        ],
        "how_to": list(asked.how_to),
    }


def _cell(cell: AskedCell) -> Json:
    whole = sum(part.amount for part in cell.parts)
    return {
        "id": cell.id,
        "label": cell.label,
        "shape": cell.shape.value,
        "lab": [round(number, 3) for number in cell.lab],
        "hvc": hvc_to_json(cell.hvc),
        "parts": {part.tube.name: float(f"{part.amount / whole:.5g}") for part in cell.parts},
        "note": cell.note,
        "limit": cell.limit or None,
    }
