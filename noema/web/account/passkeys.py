"""Somebody's own passkeys are made and removed."""

from flask import Blueprint, Response, redirect, request, url_for
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions import passkeys as actions
from noema.actions.own_account import check_own_password
from noema.core.joining.deeds import Deed
from noema.web.frame.devices import device_of
from noema.web.frame.forms import Exactly, read_form
from noema.web.frame.guessing import limits_of_account, slowed
from noema.web.frame.noted import note
from noema.web.frame.passkey import answered, asked, site
from noema.web.frame.request import db, me


class PasswordAgainForm(Form):
    """The password, so that nobody adds a key who only found a page open."""

    password = Exactly()


def add_routes(account: Blueprint) -> None:
    """Add what makes and removes passkeys."""
    account.post("/account/passkeys/begin")(begin_passkey)
    account.post("/account/passkeys")(keep_passkey)
    account.post("/account/passkeys/<int:passkey_id>/remove")(remove_passkey)


def begin_passkey() -> Response:
    """Ask the browser for a passkey, once the password was typed."""
    password = read_form(PasswordAgainForm).password.data
    slowed(limits_of_account(me().email), lambda: check_own_password(me(), password))
    return asked(actions.ask_to_make(db(), me(), site()))


def keep_passkey() -> tuple[dict[str, str], int]:
    """Keep the passkey that the browser made."""
    answer, challenge = answered()
    device = device_of(request.user_agent.string)
    actions.keep_made(db(), me(), answer, challenge, site(), device)
    note(Deed.PASSKEY_ADDED)
    return {"to": url_for("account.of_mine")}, 201


def remove_passkey(passkey_id: int) -> AnyResponse:
    """Remove one."""
    actions.remove_passkey(db(), me().id, passkey_id)
    note(Deed.PASSKEY_REMOVED)
    return redirect(url_for("account.of_mine"), 303)
