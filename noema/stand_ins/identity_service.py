"""A school's own identity service, made up: OpenID Connect with a page to choose who one is.

It trusts everybody who asks and is for demos and tests alone. Run:
python -m noema.stand_ins.identity_service PORT
"""

import base64
import hashlib
import os
import secrets
import sys
import time
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from urllib.parse import urlencode

from flask import Flask, Response, abort, jsonify, redirect, request
from joserfc import jwk, jwt
from markupsafe import escape
from werkzeug.wrappers import Response as AnyResponse

CLIENT, SECRET = "noema", "a secret for demos and tests alone"
_LASTS_S = 300


@dataclass(frozen=True, kw_only=True)
class Somebody:
    """Who may be chosen."""

    email: str
    name: str
    is_verified: bool = True


@dataclass(frozen=True, kw_only=True)
class _Begun:
    who: Somebody
    nonce: str
    challenge: str
    back: str


def identity_service(people: Sequence[Somebody], issuer: str) -> Flask:
    """Make the service, as it is reached at an address."""
    app, key = Flask("noema.stand_ins"), jwk.RSAKey.generate_key(2048, {"kid": "one"})
    begun: dict[str, _Begun] = {}
    by_email = {one.email: one for one in people}

    @app.get("/.well-known/openid-configuration")
    def configuration() -> Response:
        """Say where everything is (OpenID Connect Discovery 1.0)."""
        return jsonify(
            issuer=issuer,
            authorization_endpoint=f"{issuer}/authorize",
            token_endpoint=f"{issuer}/token",
            jwks_uri=f"{issuer}/keys",
            response_types_supported=["code"],
            subject_types_supported=["public"],
            id_token_signing_alg_values_supported=["RS256"],
            code_challenge_methods_supported=["S256"],
        )

    @app.get("/keys")
    def keys() -> Response:
        """Give the public key."""
        return jsonify(keys=[key.as_dict(private=False)])

    @app.get("/authorize")
    def authorize() -> str | AnyResponse:
        """Ask who it is, then send them back with a code."""
        asked = request.args
        if asked.get("client_id") != CLIENT or asked.get("response_type") != "code":
            abort(400)
        who = by_email.get(asked.get("who", ""))
        if who is None:
            return _choices(people, request.url)
        code = secrets.token_urlsafe(16)
        begun[code] = _Begun(
            who=who,
            nonce=asked.get("nonce", ""),
            challenge=asked.get("code_challenge", ""),
            back=asked["redirect_uri"],
        )
        given = urlencode({"code": code, "state": asked.get("state", "")})
        return redirect(f"{asked['redirect_uri']}?{given}")

    @app.post("/token")
    def token() -> Response:
        """Give an id token for a code, once, to who began."""
        own = request.authorization
        form = request.form
        known = (
            (own.username, own.password)
            if own is not None
            else (form.get("client_id"), form.get("client_secret"))
        )
        one = begun.pop(form.get("code", ""), None)
        if known != (CLIENT, SECRET) or one is None or one.back != form.get("redirect_uri"):
            abort(400)
        if one.challenge != _challenge(form.get("code_verifier", "")):
            abort(400)
        return jsonify(
            access_token=secrets.token_urlsafe(16),
            token_type="Bearer",
            expires_in=_LASTS_S,
            id_token=jwt.encode({"alg": "RS256", "kid": "one"}, _claims(one, issuer), key),
        )

    return app


def _claims(one: _Begun, issuer: str) -> dict[str, Any]:
    now = int(time.time())
    return {
        "iss": issuer,
        "aud": CLIENT,
        "sub": hashlib.sha256(one.who.email.encode()).hexdigest()[:16],
        "iat": now,
        "exp": now + _LASTS_S,
        "nonce": one.nonce,
        "email": one.who.email,
        "email_verified": one.who.is_verified,
        "name": one.who.name,
    }


def _challenge(verifier: str) -> str:
    """Give what a verifier was announced by (PKCE, RFC 7636)."""
    digest = hashlib.sha256(verifier.encode()).digest()
    return base64.urlsafe_b64encode(digest).rstrip(b"=").decode()


def _choices(people: Sequence[Somebody], here: str) -> str:
    links = "".join(
        f'<li><a href="{escape(here)}&amp;{escape(urlencode({"who": one.email}))}">'
        f"{escape(one.name)}</a></li>"
        for one in people
    )
    return f"<h1>Who are you?</h1><p>A stand-in that believes everybody.</p><ul>{links}</ul>"


def main() -> None:
    """Serve on loopback; people come from the environment, as e-mails and names."""
    port = int(sys.argv[1])
    named = os.environ.get("IDENTITY_PEOPLE", "")
    pairs = (one.split("=", 1) for one in named.split(";") if "=" in one)
    people = [Somebody(email=email, name=name) for email, name in pairs]
    identity_service(people, f"http://127.0.0.1:{port}").run("127.0.0.1", port)


if __name__ == "__main__":
    main()
