"""Links that open one page once."""

from datetime import timedelta
from enum import Enum


class LinkPurpose(Enum):
    """What a link is for."""

    INVITATION = "invitation"
    NEW_PASSWORD = "new password"
    NEW_EMAIL = "new e-mail"

    @property
    def lasts(self) -> timedelta:
        """How long it opens its page."""
        return _LAST[self]


_LAST = {
    LinkPurpose.INVITATION: timedelta(days=7),
    LinkPurpose.NEW_PASSWORD: timedelta(hours=1),
    LinkPurpose.NEW_EMAIL: timedelta(hours=24),
}
