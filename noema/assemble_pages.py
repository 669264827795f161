"""Puts together what shows pages: settings -> devices, store -> application.

It may import everything but jobs, which bring in what no page needs; only entry points and tests
import it.
"""

import gc
from importlib.metadata import version
from pathlib import Path
from random import Random
from urllib.parse import urlsplit

from flask import Flask

from noema.core.errors import Refused
from noema.devices.colour_meter import ColourMeter, SpooledMeter
from noema.devices.fault_reports import begin_reports
from noema.devices.logs import begin_logs
from noema.devices.looks import Looks
from noema.devices.mail import MailServer, Outbox, SmtpOutbox
from noema.devices.object_store import is_object_store
from noema.devices.stores_at import files_at, pieces_at
from noema.settings import Settings, settings_from
from noema.stand_ins.meter import PretendMeter
from noema.stand_ins.outbox import PretendOutbox
from noema.store.engine import Sessions, open_engine, open_sessions
from noema.store.looks import KeptLooks
from noema.web.application import make_application
from noema.web.frame.request import Parts
from noema.web.logging_in.by_school import IdentityService


def web_application() -> Flask:
    """Make the web application from the environment; gunicorn calls this."""
    settings = begun()
    app = web_application_of(settings, open_sessions(open_engine(settings.database_url)))
    # What start-up made stays; looking through it again and again would cost large pages dear.
    gc.freeze()
    return app


def begun() -> Settings:
    begin_logs()
    settings = settings_from()
    if settings.faults_to:
        begin_reports(settings.faults_to, f"noema@{version('noema')}")
    return settings


def web_application_of(settings: Settings, sessions: Sessions) -> Flask:
    """Make the web application over an open database."""
    parts = Parts(
        sessions=sessions,
        files=files_at(settings.files, settings.old_files),
        meter=meter_of(settings),
        pieces=pieces_at(settings.files),
        looks=Looks(KeptLooks(sessions)),
        outbox=outbox_of(settings),
        mail_from=mail_from_of(settings),
        card_secret=settings.card_key or settings.secret_key,
        student_idle_s=settings.student_minutes * 60,
        address=settings.address,
    )
    return make_application(
        parts,
        secret_key=settings.secret_key,
        old_secret_keys=tuple(settings.old_secret_keys.split()),
        https=bool(settings.https),
        pseudo_language=bool(settings.pseudo_language),
        session_hours=settings.session_hours,
        slows_guessing=bool(settings.slows_guessing),
        proxies=settings.proxies,
        metrics_token=settings.metrics_token,
        setup_word=settings.setup_word,
        identity_service=identity_service_of(settings),
    )


def meter_of(settings: Settings) -> ColourMeter | None:
    """Find the colour meter the settings name."""
    if settings.meter == "none":
        return None
    if settings.meter == "stand-in":
        return PretendMeter(Random())
    return SpooledMeter(Path(settings.meter))


def outbox_of(settings: Settings) -> Outbox:
    """Find the mail server the settings name."""
    if settings.mail == "stand-in":
        if is_object_store(settings.files):
            raise Refused(
                "Letters can't be kept beside photographs on a service: set NOEMA_MAIL to a mail "
                "server."
            )
        return PretendOutbox(Path(settings.files) / "outbox")
    host, _, port = settings.mail.partition(":")
    if not host or not port.isdigit():
        raise Refused("NOEMA_MAIL must be “stand-in” or a mail server such as mail.example:25.")
    return SmtpOutbox(
        MailServer(
            host=host,
            port=int(port),
            security=settings.mail_security,
            user=settings.mail_user,
            password=settings.mail_password,
        )
    )


def identity_service_of(settings: Settings) -> IdentityService | None:
    """Find the school's own identity service, if the settings name one."""
    if not settings.oidc_issuer:
        return None
    return IdentityService(
        issuer=settings.oidc_issuer,
        client=settings.oidc_client,
        secret=settings.oidc_secret,
        name=settings.oidc_name,
    )


def mail_from_of(settings: Settings) -> str:
    """Give whom Noema's own letters are from."""
    host = urlsplit(settings.address).hostname
    return settings.mail_from or f"noema@{host or 'noema.invalid'}"
