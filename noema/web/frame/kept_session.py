"""Sessions in signed cookies whose end is not in the cookie: log-ins are rows, and know it."""

from flask import Flask, Request
from flask.sessions import SecureCookieSession, SecureCookieSessionInterface
from itsdangerous import BadSignature


class KeptSessions(SecureCookieSessionInterface):
    """Flask's own, but for the time in the signature: a clock set back shows nobody out."""

    def open_session(self, app: Flask, request: Request) -> SecureCookieSession | None:
        """Read a cookie that was signed here, at whatever time."""
        signer = self.get_signing_serializer(app)
        if signer is None:
            return None
        try:
            return self.session_class(
                signer.loads(request.cookies.get(self.get_cookie_name(app), ""))
            )
        except BadSignature:
            return self.session_class()
