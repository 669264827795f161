"""Ways of looking at a sheet on the desk, kept in the address so that they outlast a step."""

from dataclasses import dataclass, replace
from urllib.parse import urlencode

from werkzeug.datastructures import MultiDict

from noema.core.language import N_

VIEWS = {
    "straight": N_("Straight"),
    "photograph": N_("The photograph"),
    "greyscale": N_("Grey"),
    "squint": N_("Squint"),
    "isolated": N_("Alone"),
    "key": N_("Beside the key"),
    "last": N_("Beside last time"),
}
"""Each has a number key from 1."""

ROOMS = 5
"""Greys a swatch can be looked at on, 0 the darkest."""

USUAL_ROOM = 2  # about value 6


@dataclass(frozen=True, kw_only=True)
class Look:
    """How a sheet is looked at."""

    cell: str
    view: str = "straight"
    room: int = USUAL_ROOM
    near: bool = False  # magnified round the cell
    large: bool = False  # over all of the desk

    @property
    def query(self) -> str:
        """The address's part that brings this look back; what is usual is left out."""
        usual = Look(cell=self.cell)
        said: dict[str, str | int] = {"cell": self.cell}
        said |= {"view": self.view} if self.view != usual.view else {}
        said |= {"room": self.room} if self.room != usual.room else {}
        said |= {"near": 1} if self.near else {}
        said |= {"large": 1} if self.large else {}
        return urlencode(said)

    def at(self, cell: str) -> str:
        """Look at another cell the same way."""
        return replace(self, cell=cell).query

    def by(self, view: str) -> str:
        """Look at the same cell another way."""
        return replace(self, view=view).query

    @property
    def darker(self) -> str:
        """The same in a darker room."""
        return replace(self, room=max(self.room - 1, 0)).query

    @property
    def lighter(self) -> str:
        """The same in a lighter room."""
        return replace(self, room=min(self.room + 1, ROOMS - 1)).query

    @property
    def nearer(self) -> str:
        """The same, magnified or back to the whole sheet."""
        return replace(self, near=not self.near).query

    @property
    def larger(self) -> str:
        """The same over all of the desk, or back beside the numbers."""
        return replace(self, large=not self.large).query


def look_of(asked_for: MultiDict[str, str], cell: str) -> Look:
    """Read a look from an address; what makes no sense becomes what is usual."""
    room = asked_for.get("room", default=USUAL_ROOM, type=int)
    view = asked_for.get("view", "")
    return Look(
        cell=cell,
        view=view if view in VIEWS else "straight",
        room=min(max(room, 0), ROOMS - 1),
        near=asked_for.get("near") == "1",
        large=asked_for.get("large") == "1",
    )
