"""Signing in with the school's own identity service (OpenID Connect, code flow with PKCE)."""

from dataclasses import dataclass
from typing import Any

import requests
from authlib.integrations.base_client import OAuthError
from authlib.integrations.flask_client import OAuth
from flask import Blueprint, Flask, current_app, redirect, url_for
from joserfc.errors import JoseError
from werkzeug.wrappers import Response

from noema.core.errors import NotAllowed, NotFound
from noema.core.joining.deeds import Deed
from noema.core.language import gettext
from noema.store.people import teacher_by_email
from noema.web.frame.access import let_teacher_in
from noema.web.frame.noted import note
from noema.web.frame.request import address_of, db

by_school = Blueprint("by_school", __name__)

_KEY, _SERVICE = "noema_identity_service", "school"


@dataclass(frozen=True, kw_only=True)
class IdentityService:
    """A school's own identity service."""

    issuer: str
    client: str
    secret: str
    name: str  # on the button


def attach_identity_service(app: Flask, service: IdentityService | None) -> None:
    """Let people sign in with a service, or with none."""
    app.extensions[_KEY] = None
    if service is None:
        return
    oauth = OAuth(app)
    oauth.register(
        _SERVICE,
        client_id=service.client,
        client_secret=service.secret,
        server_metadata_url=f"{service.issuer.rstrip('/')}/.well-known/openid-configuration",
        client_kwargs={"scope": "openid email profile", "code_challenge_method": "S256"},
    )
    app.extensions[_KEY] = (oauth, service)


def service_name() -> str:
    """Give what the service is called; empty where there is none."""
    kept = current_app.extensions[_KEY]
    return "" if kept is None else str(kept[1].name)


@by_school.get("/sign-in")
def begin() -> Response:
    """Send somebody to the service."""
    back = address_of(url_for("by_school.come_back"))
    try:
        answer: Response = _client().authorize_redirect(back)
    except (requests.RequestException, OAuthError, ValueError) as wrong:
        raise _away() from wrong
    return answer


@by_school.get("/sign-in/back")
def come_back() -> Response:
    """Take somebody from the service, if it vouches for an e-mail that somebody here has."""
    try:
        told = _client().authorize_access_token()["userinfo"]
    except (requests.RequestException, OAuthError, JoseError, ValueError, KeyError) as wrong:
        raise _away() from wrong
    email = str(told.get("email", ""))
    if not email or told.get("email_verified") is not True:
        raise NotAllowed(
            gettext("Your school’s service doesn’t vouch for your e-mail: tell it so.")
        )
    teacher = teacher_by_email(db(), email)
    if teacher is None or teacher.is_disabled:
        raise NotAllowed(
            gettext("Nobody here has your e-mail: ask an administrator to invite you.")
        )
    let_teacher_in(teacher)
    note(Deed.CAME_IN, service_name(), by=teacher)
    return redirect(url_for("today.home"))


def _client() -> Any:
    kept = current_app.extensions[_KEY]
    if kept is None:
        raise NotFound(gettext("There is no page at this address: go back, or begin at Today."))
    return kept[0].create_client(_SERVICE)


def _away() -> NotAllowed:
    return NotAllowed(gettext("Your school’s service didn’t let you in: try it once more."))
