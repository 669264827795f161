"""Every setting: name, default, unit and sentence. Each can be set as NOEMA_<NAME>."""

import os
import re
from collections.abc import Mapping
from dataclasses import Field, dataclass, field, fields
from typing import Any
from urllib.parse import urlsplit

from noema.core.errors import Refused


def _setting(
    default: str | int, unit: str, sentence: str, between: tuple[int, int] = (0, 10**6)
) -> Any:
    more = {"unit": unit, "sentence": sentence, "between": between}
    return field(default=default, metadata=more)


@dataclass(frozen=True, kw_only=True)
class Settings:
    """What can be set from outside."""

    database_url: str = _setting(
        "", "URL", "Where PostgreSQL is: postgresql://user@host:port/name."
    )
    files: str = _setting(
        ".local/files",
        "folder, or s3://KEY:SECRET@HOST/BUCKET",
        "Where photographs are kept; s3+http where the service speaks no HTTPS.",
    )
    old_files: str = _setting(
        "", "as files", "Where photographs were kept before, while they are moved; empty: nowhere."
    )
    secret_key: str = _setting("", "text", "Signs sessions; at least 32 characters, kept secret.")
    old_secret_keys: str = _setting(
        "", "text, with blanks between", "Keys that were the secret key before: sessions go on."
    )
    card_key: str = _setting(
        "", "text", "What students' cards are worked out from; empty: the secret key."
    )
    https: int = _setting(
        0, "0 or 1", "1 when people reach Noema over https: cookies need it.", (0, 1)
    )
    session_hours: int = _setting(12, "hours", "How long a log-in lasts without a click.", (1, 720))
    slows_guessing: int = _setting(
        1, "0 or 1", "0 lets anybody guess passwords and cards as fast as they can.", (0, 1)
    )
    reading_at_once: int = _setting(
        2, "count", "Photographs the worker reads side by side.", (1, 64)
    )
    heartbeat_s: int = _setting(2, "seconds", "How often the worker says that it lives.", (1, 600))
    meter: str = _setting(
        "none", "name or folder", "The colour meter: none, stand-in, or the folder it writes to."
    )
    student_minutes: int = _setting(
        15, "minutes", "Idle time after which a student on a shared device is out.", (1, 1440)
    )
    mail: str = _setting("stand-in", "name or host:port", "The mail server: stand-in, or where.")
    mail_security: str = _setting(
        "starttls", "none, starttls or tls", "How what goes to the mail server is kept from others."
    )
    mail_user: str = _setting("", "text", "Whom the mail server knows Noema as; empty: nobody.")
    mail_password: str = _setting("", "text", "The password that goes with it, kept secret.")
    mail_from: str = _setting(
        "", "e-mail", "Whom Noema's own letters are from; empty: noema@ the host of the address."
    )
    address: str = _setting(
        "", "URL", "Where people reach Noema: printed on cards; no other host is answered."
    )
    backups: str = _setting(
        "", "folder", "Where the worker lays a backup every night; empty: nowhere."
    )
    backup_days: int = _setting(14, "days", "For how long those backups are kept.", (1, 3650))
    backup_key: str = _setting(
        "", "age public key", "For whom those backups are encrypted; empty: they aren't."
    )
    setup_word: str = _setting(
        "", "text", "Who knows it may found the first school; empty: whoever comes first."
    )
    oidc_issuer: str = _setting(
        "", "URL", "The school's own identity service (OpenID Connect); empty: there is none."
    )
    oidc_client: str = _setting("", "text", "Whom that service knows Noema as.")
    oidc_secret: str = _setting("", "text", "The secret that goes with it.")
    oidc_name: str = _setting("your school", "text", "What that service is called on the button.")
    metrics_token: str = _setting(
        "", "text", "Who knows it reads figures at /metrics; empty: nobody does."
    )
    worker_metrics: str = _setting(
        "", "HOST:PORT", "Where each worker gives figures of its jobs; empty: nowhere."
    )
    faults_to: str = _setting(
        "", "DSN", "The service that faults of the program are reported to; empty: none."
    )
    proxies: int = _setting(
        0, "count", "Proxies of your own in front, whose word on who asks is believed.", (0, 5)
    )
    pseudo_language: int = _setting(
        0, "0 or 1", "1 offers a language that shows what isn't translated: for developers.", (0, 1)
    )
    stalled_s: int = _setting(
        8, "seconds", "Silence after which a worker counts as gone.", (2, 3600)
    )


def settings_from(environment: Mapping[str, str] = os.environ) -> Settings:
    """Read settings from the environment, or refuse the first that makes no sense."""
    given: dict[str, Any] = {}
    for setting in fields(Settings):
        text = environment.get(f"NOEMA_{setting.name.upper()}")
        if text is None:
            continue
        given[setting.name] = _number(setting, text) if setting.type is int else text
    settings = Settings(**given)
    if not settings.database_url:
        raise Refused("NOEMA_DATABASE_URL isn't set: start with 'make demo', or set it.")
    for check in _CHECKS:
        check(settings)
    return settings


def _check_address(settings: Settings) -> None:
    address = urlsplit(settings.address)
    if settings.address and (address.scheme not in ("http", "https") or not address.hostname):
        raise Refused(
            "NOEMA_ADDRESS must be where people reach Noema, such as https://noema.school.example."
        )
    if settings.https and address.scheme == "http":
        raise Refused("NOEMA_HTTPS is 1, but NOEMA_ADDRESS begins with http: use https there.")


def _check_keys(settings: Settings) -> None:
    named = {"SECRET_KEY": settings.secret_key, "CARD_KEY": settings.card_key}
    for name, key in named.items():
        if key and len(key) < SHORTEST_KEY:
            raise Refused(
                f"NOEMA_{name} is too short: set at least {SHORTEST_KEY} random characters."
            )
    if any(len(key) < SHORTEST_KEY for key in settings.old_secret_keys.split()):
        raise Refused("NOEMA_OLD_SECRET_KEYS holds a key that is too short to have been one.")


def _check_mail(settings: Settings) -> None:
    if settings.mail_security not in MAIL_SECURITY:
        known = ", ".join(MAIL_SECURITY)
        raise Refused(f"NOEMA_MAIL_SECURITY must be one of {known}: choose one.")
    if bool(settings.mail_user) is not bool(settings.mail_password):
        raise Refused("NOEMA_MAIL_USER and NOEMA_MAIL_PASSWORD go together: set both or neither.")
    if settings.mail_user and settings.mail_security == "none":
        raise Refused(
            "A password would go to the mail server for all to read: set starttls or tls."
        )
    if settings.mail_from and not ADDRESS.fullmatch(settings.mail_from):
        raise Refused("NOEMA_MAIL_FROM must be an e-mail address such as noema@school.example.")


def _check_identity_service(settings: Settings) -> None:
    given = (settings.oidc_issuer, settings.oidc_client, settings.oidc_secret)
    if any(given) and not all(given):
        raise Refused(
            "NOEMA_OIDC_ISSUER, NOEMA_OIDC_CLIENT and NOEMA_OIDC_SECRET go together: set all three."
        )
    issuer = urlsplit(settings.oidc_issuer)
    is_here = issuer.hostname in ("127.0.0.1", "localhost")
    if settings.oidc_issuer and issuer.scheme != "https" and not is_here:
        raise Refused("NOEMA_OIDC_ISSUER must begin with https: who signs in must be sure of it.")


def _check_figures(settings: Settings) -> None:
    if settings.worker_metrics and not _PLACE.fullmatch(settings.worker_metrics):
        raise Refused("NOEMA_WORKER_METRICS must be a host and a port such as 127.0.0.1:9101.")
    faults_to = urlsplit(settings.faults_to)
    if settings.faults_to and not (faults_to.hostname and faults_to.username):
        raise Refused("NOEMA_FAULTS_TO must be a DSN such as https://KEY@faults.example/1.")


SHORTEST_KEY = 32
MAIL_SECURITY = ("none", "starttls", "tls")
ADDRESS = re.compile(r"[^@\s<>,;]+@[^@\s<>,;]+\.[^@\s<>,;]+")
_PLACE = re.compile(r"[\w.-]+:\d{1,5}")
_CHECKS = (_check_address, _check_keys, _check_mail, _check_identity_service, _check_figures)


def _number(setting: Field[int], text: str) -> int:
    least, most = setting.metadata["between"]
    if not text.isdigit() or not least <= int(text) <= most:
        raise Refused(
            f"NOEMA_{setting.name.upper()} must be a whole number from {least} to {most} "
            f"({setting.metadata['unit']}), not “{text[:20]}”."
        )
    return int(text)
