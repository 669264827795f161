"""A form that makes something new carries a name of its own, and is done once."""

from secrets import token_hex

from flask import request

from noema.core.errors import OutOfDate
from noema.core.language import gettext
from noema.store.sent_forms import first_time
from noema.web.frame.request import db

_LENGTH = 32


def once() -> str:
    """Name a form, for its hidden field of that name."""
    return token_hex(_LENGTH // 2)


def do_once() -> None:
    """Refuse a form that came before and was done; what was refused may come again."""
    name = request.form.get("once", "")
    if name and not first_time(db(), name[:_LENGTH]):
        raise OutOfDate(gettext("This was sent twice and is done once: go back to see it."))
