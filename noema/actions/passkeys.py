"""Passkeys are made, and let somebody in: the device says that it is them (W3C Web Authentication).

A device that checks who holds it stands for both password and code.
"""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from sqlalchemy.orm import Session
from webauthn import (
    generate_authentication_options,
    generate_registration_options,
    options_to_json,
    verify_authentication_response,
    verify_registration_response,
)
from webauthn.helpers import base64url_to_bytes
from webauthn.helpers.exceptions import WebAuthnException
from webauthn.helpers.structs import (
    AuthenticatorSelectionCriteria,
    PublicKeyCredentialDescriptor,
    ResidentKeyRequirement,
    UserVerificationRequirement,
)

from noema.core.errors import NotAllowed, NotFound, Refused
from noema.core.language import gettext
from noema.store.passkeys import (
    add_passkey,
    drop_passkeys,
    note_use,
    passkey_by_credential,
    passkeys_of,
)
from noema.store.people import TeacherRow, teacher_by_id

MOST = 10
"""Passkeys that one person may have."""

_CHECKED = UserVerificationRequirement.REQUIRED


@dataclass(frozen=True, kw_only=True)
class Site:
    """Where passkeys are good: by this host's name alone, from this origin's pages alone."""

    host: str
    origin: str


@dataclass(frozen=True, kw_only=True)
class PasskeyQuestion:
    """What a browser is asked, and what its answer must have signed."""

    options: str  # JSON
    challenge: bytes


def ask_to_make(session: Session, teacher: TeacherRow, site: Site) -> PasskeyQuestion:
    """Ask somebody's browser for a new passkey."""
    known = passkeys_of(session, teacher.id)
    if len(known) >= MOST:
        raise Refused(gettext("You have %(most)s passkeys: remove one first.", most=MOST))
    options = generate_registration_options(
        rp_id=site.host,
        rp_name="Noema",
        user_id=str(teacher.id).encode(),
        user_name=teacher.email,
        user_display_name=teacher.display_name,
        authenticator_selection=AuthenticatorSelectionCriteria(
            resident_key=ResidentKeyRequirement.REQUIRED, user_verification=_CHECKED
        ),
        exclude_credentials=[PublicKeyCredentialDescriptor(id=one.credential) for one in known],
    )
    return PasskeyQuestion(options=options_to_json(options), challenge=options.challenge)


def keep_made(
    session: Session,
    teacher: TeacherRow,
    answer: Mapping[str, Any],
    challenge: bytes,
    site: Site,
    device: str,
) -> None:
    """Keep the passkey that a browser made, if it is one."""
    try:
        made = verify_registration_response(
            credential=dict(answer),
            expected_challenge=challenge,
            expected_rp_id=site.host,
            expected_origin=site.origin,
            require_user_verification=True,
        )
    except (WebAuthnException, ValueError, KeyError, TypeError) as wrong:
        raise Refused(gettext("The passkey couldn’t be made: begin again.")) from wrong
    if passkey_by_credential(session, made.credential_id) is not None:
        raise Refused(gettext("That passkey is kept already."))
    add_passkey(
        session,
        teacher.id,
        credential=made.credential_id,
        public_key=made.credential_public_key,
        uses=made.sign_count,
        device=device,
    )


def ask_who(site: Site) -> PasskeyQuestion:
    """Ask a browser for any passkey it has for here."""
    options = generate_authentication_options(rp_id=site.host, user_verification=_CHECKED)
    return PasskeyQuestion(options=options_to_json(options), challenge=options.challenge)


def who_answers(
    session: Session, answer: Mapping[str, Any], challenge: bytes, site: Site
) -> TeacherRow:
    """Give whose passkey signed the answer, or refuse without saying what was wrong."""
    try:
        passkey = passkey_by_credential(session, base64url_to_bytes(str(answer["id"])))
        if passkey is None:
            raise _refusal()
        shown = verify_authentication_response(
            credential=dict(answer),
            expected_challenge=challenge,
            expected_rp_id=site.host,
            expected_origin=site.origin,
            credential_public_key=passkey.public_key,
            credential_current_sign_count=passkey.uses,
            require_user_verification=True,
        )
    except (WebAuthnException, ValueError, KeyError, TypeError) as wrong:
        raise _refusal() from wrong
    teacher = teacher_by_id(session, passkey.teacher_id)
    if teacher is None or teacher.is_disabled:
        raise _refusal()
    note_use(session, passkey.id, shown.new_sign_count)
    return teacher


def remove_passkey(session: Session, teacher_id: int, passkey_id: int) -> None:
    """Forget one of somebody's passkeys."""
    if not drop_passkeys(session, teacher_id, only=passkey_id):
        raise NotFound(gettext("That passkey is gone already."))


def _refusal() -> NotAllowed:
    return NotAllowed(gettext("That passkey lets nobody in here: log in with your password."))
