"""What is laid out before a lesson, from its media; usual practice of a painting room."""

from collections.abc import Collection

from noema.core.exercises.media import Medium
from noema.core.language import gettext


def things_to_lay_out(media: Collection[Medium], people: int) -> tuple[str, ...]:
    """Say what lies ready when a class comes in, in the order it is laid out."""
    if not media:
        return ()
    wet = [medium for medium in media if not medium.is_dry]
    things = [gettext("%(people)s printed worksheets, one to spare", people=people + 1)]
    if wet:
        things += [
            gettext("palettes, a neutral grey one or grey paper under a clear one"),
            gettext("two jars of water a table: one to rinse, one clean")
            if Medium.OIL not in wet
            else gettext("brush cleaner in closed jars, rags, the metal can with its lid"),
            gettext("a knife or a flat brush each, rags"),
        ]
    if any(medium.is_dry for medium in media):
        things.append(gettext("sharpeners, and a damp cloth for dust"))
    things += [
        gettext("the key sheet on the wall"),
        gettext("the students' cards"),
    ]
    if wet:
        places = gettext("%(people)s places free on the drying rack", people=people)
        things.append(places)
    return tuple(things)
