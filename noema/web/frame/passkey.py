"""What pages about passkeys share: where they are good, what was asked, and what came back."""

from base64 import b64decode, b64encode
from collections.abc import Mapping
from datetime import UTC, datetime, timedelta
from typing import Any
from urllib.parse import urlsplit

from flask import Response, request, session

from noema.actions.passkeys import PasskeyQuestion, Site
from noema.core.errors import OutOfDate
from noema.core.language import gettext
from noema.web.frame.request import address_of

_KEPT, _LASTS = "passkey asked", timedelta(minutes=5)


def site() -> Site:
    """Give where passkeys are good."""
    here = urlsplit(address_of("/"))
    return Site(host=here.hostname or "", origin=f"{here.scheme}://{here.netloc}")


def asked(question: PasskeyQuestion) -> Response:
    """Ask a browser, and keep what its answer must have signed."""
    until = (datetime.now(UTC) + _LASTS).isoformat()
    session[_KEPT] = {"challenge": b64encode(question.challenge).decode(), "until": until}
    return Response(question.options, mimetype="application/json")


def answered() -> tuple[Mapping[str, Any], bytes]:
    """Give the browser's answer and what it must have signed; each question is answered once."""
    kept, answer = session.pop(_KEPT, None), request.get_json(silent=True)
    late = kept is None or datetime.fromisoformat(kept["until"]) < datetime.now(UTC)
    if late or not isinstance(answer, dict):
        raise OutOfDate(gettext("That took too long: begin again."))
    return answer, b64decode(kept["challenge"])
