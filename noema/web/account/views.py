"""Somebody's own account, and the doors that open once."""

from dataclasses import dataclass
from datetime import UTC, datetime

import segno
from flask import Blueprint, redirect, render_template, url_for
from flask_login import current_user
from markupsafe import Markup
from werkzeug.wrappers import Response
from wtforms import Form

from noema.actions import own_account as actions
from noema.actions.links import looked_up
from noema.actions.tokens import hash_of_token
from noema.core.errors import NotAllowed, NotFound, Refused
from noema.core.joining.deeds import Deed
from noema.core.joining.one_use import LinkPurpose
from noema.core.language import gettext
from noema.store.accounts import OwnLogIn, code_of, end_own_log_ins, own_log_ins
from noema.store.passkeys import PasskeyRow, passkeys_of
from noema.web.account.passkeys import add_routes as add_passkey_routes
from noema.web.frame.access import let_teacher_in
from noema.web.frame.forms import Exactly, TextLine, read_form
from noema.web.frame.guessing import limits_of_account, slowed
from noema.web.frame.noted import note
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.posting import post, sends
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, me

account = Blueprint("account", __name__)
add_passkey_routes(account)

_SHOWN = 12  # digits of a log-in's hash, that tell it from others


@dataclass(frozen=True, kw_only=True)
class LogInLine:
    """Where somebody is in."""

    log_in: OwnLogIn
    named: str
    is_here: bool


@dataclass(frozen=True, kw_only=True)
class AccountPage:
    """Somebody's own account."""

    frame: Frame
    name: str
    email: str
    role: str
    sends: bool
    log_ins: tuple[LogInLine, ...]
    asks_codes: bool
    recovery_left: int
    passkeys: tuple[PasskeyRow, ...]
    codes: actions.NewCodes | None = None  # begun, and not confirmed
    picture: Markup = Markup()
    recovery: tuple[str, ...] = ()  # shown this once
    said: str = ""  # what was done
    sentence: str = ""


@dataclass(frozen=True, kw_only=True)
class DoorPage:
    """A page before somebody is in."""

    frame: None = None
    sentence: str = ""
    said: str = ""
    word: str = ""
    purpose: LinkPurpose | None = None


class NameForm(Form):
    """What somebody is called."""

    name_ = TextLine(name="name")


class EmailForm(Form):
    """A new e-mail."""

    email = TextLine()
    password = Exactly()


class PasswordForm(Form):
    """A password and the one before it."""

    old = Exactly()
    new = Exactly()


class NewPasswordForm(Form):
    """A password."""

    password = Exactly()


class ForgottenForm(Form):
    """Whose password is forgotten."""

    email = TextLine()


class OwnCodeForm(Form):
    """A code, or the password for asking for none."""

    code = Exactly()
    password = Exactly()


@account.get("/account")
def of_mine() -> str:
    """Show the account."""
    return render_template("account/account.html", page=_page())


@account.post("/account/name")
def rename() -> Response | tuple[str, int]:
    """Change the name."""
    try:
        actions.rename(db(), me(), read_form(NameForm).name_.data)
    except Refused as refusal:
        return _refused(refusal)
    return _back()


@account.post("/account/email")
def new_email() -> str | tuple[str, int]:
    """Send a link to a new e-mail."""
    given = read_form(EmailForm)
    try:
        email = slowed(
            limits_of_account(me().email),
            lambda: actions.ask_for_email(
                db(), me(), given.password.data, given.email.data, post()
            ),
        )
    except Refused as refusal:
        return _refused(refusal)
    said = gettext(
        "A letter with a link goes to %(email)s: follow it, then log in so.", email=email
    )
    return render_template("account/account.html", page=_page(said=said))


@account.post("/account/password")
def new_password() -> Response | tuple[str, int]:
    """Change the password; every log-in but this one ends."""
    given, teacher = read_form(PasswordForm), me()
    try:
        slowed(
            limits_of_account(teacher.email),
            lambda: actions.change_password(db(), teacher, given.old.data, given.new.data),
        )
    except Refused as refusal:
        return _refused(refusal)
    note(Deed.PASSWORD_SET, by=teacher)
    let_teacher_in(teacher)
    return _back()


@account.post("/account/log-ins/<named>/end")
def end_one(named: str) -> Response:
    """End one log-in."""
    if not end_own_log_ins(db(), me().id, hash_of_token(current_user.token), only=named):
        raise NotFound(gettext("That log-in is over already."))
    note(Deed.LOG_INS_ENDED)
    return _back()


@account.post("/account/log-ins/end")
def end_others() -> Response:
    """End all log-ins but this one."""
    if end_own_log_ins(db(), me().id, hash_of_token(current_user.token)):
        note(Deed.LOG_INS_ENDED)
    return _back()


@account.post("/account/codes")
def begin_codes() -> str | tuple[str, int]:
    """Show what a phone makes codes from."""
    if actions.asks_codes(db(), me().id):
        return _refused(Refused(gettext("You are asked for codes already.")))
    codes = actions.begin_codes(db(), me())
    return render_template("account/account.html", page=_page(codes=codes))


@account.post("/account/codes/confirm")
def confirm_codes() -> str | tuple[str, int]:
    """Ask for codes from now on."""
    given = read_form(OwnCodeForm)
    try:
        recovery = actions.confirm_codes(db(), me(), given.code.data, datetime.now(UTC))
    except Refused as refusal:
        return _refused(refusal)
    note(Deed.CODES_ON)
    return render_template("account/account.html", page=_page(recovery=recovery))


@account.post("/account/codes/end")
def end_codes() -> Response | tuple[str, int]:
    """Ask for codes no longer."""
    given = read_form(OwnCodeForm)
    try:
        slowed(
            limits_of_account(me().email),
            lambda: actions.end_codes(db(), me(), given.password.data),
        )
    except Refused as refusal:
        return _refused(refusal)
    note(Deed.CODES_OFF)
    return _back()


@account.get("/forgotten")
def forgot() -> str:
    """Ask whose password is forgotten."""
    return render_template("account/forgotten.html", page=DoorPage())


@account.post("/forgotten")
def send_link() -> str | tuple[str, int]:
    """Send a link to set a new password by; says the same whoever is known."""
    email = read_form(ForgottenForm).email.data
    try:
        slowed(limits_of_account(f"forgotten {email}"), lambda: _always_counted(email))
    except NotAllowed:
        pass
    except Refused as refusal:  # too often, or the mail server is away
        page = DoorPage(sentence=str(refusal))
        return render_template("account/forgotten.html", page=page), status_of(refusal)
    said = gettext("If somebody logs in with that address, a letter with a link goes there.")
    if not sends():
        kept = gettext("Letters are kept in the outbox here, not sent: ask who runs Noema.")
        said = f"{said} {kept}"
    return render_template("account/forgotten.html", page=DoorPage(said=said))


def _always_counted(email: str) -> None:
    """Ask for a letter, which counts as a guess: nobody fills a letter box."""
    teacher = actions.forgotten(db(), email, post())
    if teacher is not None:
        note(Deed.PASSWORD_FORGOTTEN, by=teacher)
    raise NotAllowed(gettext("A letter was asked for."))


@account.get("/links/<word>")
def by_link(word: str) -> str:
    """Show what a link opens."""
    link = looked_up(db(), word, datetime.now(UTC))
    return render_template("account/link.html", page=DoorPage(word=word, purpose=link.purpose))


@account.post("/links/<word>")
def follow(word: str) -> Response | tuple[str, int]:
    """Set a password, or take a new e-mail."""
    now = datetime.now(UTC)
    link = looked_up(db(), word, now)
    try:
        if link.purpose is LinkPurpose.NEW_EMAIL:
            note(Deed.EMAIL_CHANGED, by=actions.take_email(db(), word, now))
        else:
            password = read_form(NewPasswordForm).password.data
            note(Deed.PASSWORD_SET, by=actions.set_by_link(db(), word, password, now))
    except Refused as refusal:
        page = DoorPage(word=word, purpose=link.purpose, sentence=str(refusal))
        return render_template("account/link.html", page=page), status_of(refusal)
    return redirect(url_for("logging_in.log_in"), 303)


def _back() -> Response:
    return redirect(url_for("account.of_mine"), 303)


def _refused(refusal: Refused) -> tuple[str, int]:
    page = _page(sentence=str(refusal))
    return render_template("account/account.html", page=page), status_of(refusal)


def _page(
    *,
    said: str = "",
    sentence: str = "",
    codes: actions.NewCodes | None = None,
    recovery: tuple[str, ...] = (),
) -> AccountPage:
    kept, here = code_of(db(), me().id), hash_of_token(current_user.token)
    return AccountPage(
        frame=frame(Stage.NONE),
        name=me().display_name,
        email=me().email,
        role=me().role.value,
        sends=sends(),
        log_ins=tuple(
            LogInLine(log_in=one, named=one.token_sha256[:_SHOWN], is_here=one.token_sha256 == here)
            for one in own_log_ins(db(), me().id, datetime.now(UTC))
        ),
        asks_codes=kept is not None and kept.is_confirmed,
        passkeys=passkeys_of(db(), me().id),
        recovery_left=0 if kept is None else kept.recovery_codes,
        codes=codes,
        picture=Markup() if codes is None else _picture(codes.uri),
        recovery=recovery,
        said=said,
        sentence=sentence,
    )


def _picture(uri: str) -> Markup:
    """Draw a QR code; it holds nothing but what was drawn here."""
    drawn = segno.make(uri, error="m").svg_inline(scale=4, border=2, dark="#000000")
    return Markup(drawn)  # noqa: S704
