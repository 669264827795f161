"""What reading several photographs of one sheet goes by."""

from dataclasses import dataclass

from noema.core.parameters import parameter


@dataclass(frozen=True, kw_only=True)
class TogetherParameters:
    """How far photographs of one sheet err together."""

    shared: float = parameter(
        0.8,
        "Share of a cell's variance that is the same in all: the print's, the paint's under one "
        "lamp, mostly the camera's.",
        source="tools/photographs.py measures what it does",
    )
    repainted: float = parameter(
        7.0, "From which a cell was painted between two photographs.", unit="CIEDE2000"
    )
    repainted_value: float = parameter(
        0.7, "The same of its value against the other cells'.", unit="value steps"
    )
    repainted_sure: float = parameter(3.0, "And so many sigmas.")
    few: float = parameter(3.0, "Photographs that lie as they should, before any is seen.")
    most_apart: float = parameter(
        3.0, "Times its sigma that a cell seen otherwise each time may be doubted more."
    )


TOGETHER = TogetherParameters()
"""What is in use."""
