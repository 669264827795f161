"""Lab drawn together where it is intense, so that steps look nearly alike everywhere (CIE94)."""

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

_PER_CHROMA = 0.045


def chroma_weight(lab: Floats) -> Floats:
    """Give by how much a* and b* of Lab (n, 3) are divided, (n,): 1 for a grey."""
    return np.asarray(1.0 + _PER_CHROMA * np.hypot(lab[:, 1], lab[:, 2]))


def chroma_weighted(lab: Floats) -> Floats:
    """Give Lab (n, 3) so drawn together."""
    return np.asarray(np.column_stack([lab[:, 0], lab[:, 1:] / chroma_weight(lab)[:, None]]))
