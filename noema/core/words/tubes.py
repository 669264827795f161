"""What people call a tube."""

from collections.abc import Mapping

from noema.core.language import gettext
from noema.core.pigments.shelf import TUBES


def tube_words(name: str, own_tubes: Mapping[str, str]) -> str:
    """Name a built-in tube, or one of a school's own by the label it gave it.

    >>> tube_words("phthalo-blue", {}), tube_words("own-3", {"own-3": "our red"})
    ('phthalo blue', 'our red')
    """
    if name in TUBES:
        return gettext(TUBES[name].label)
    return gettext(own_tubes.get(name, "")) or name.replace("-", " ")
