"""Letters of Noema's own: where they go out, and the address of the links in them."""

from datetime import UTC, datetime

from flask import url_for

from noema.actions.links import Post
from noema.web.frame.request import address_of, mail_from, outbox

_WORD = "W"


def post() -> Post:
    """Give what letters go out with now."""
    page = address_of(url_for("account.by_link", word=_WORD))
    return Post(
        outbox=outbox(),
        sender=mail_from(),
        address=page.removesuffix(_WORD),
        now=datetime.now(UTC),
    )


def sends() -> bool:
    """Whether letters really go out, or are only kept."""
    return outbox().sends
