"""The Flask application: security first, then the features."""

from collections.abc import Sequence
from datetime import timedelta
from pathlib import Path
from urllib.parse import urlsplit

from flask import Flask
from flask_login import LoginManager
from flask_talisman import Talisman
from flask_wtf import CSRFProtect
from jinja2 import StrictUndefined
from sqlalchemy.exc import DataError, OperationalError
from werkzeug.exceptions import HTTPException
from werkzeug.middleware.proxy_fix import ProxyFix

from noema.core.errors import Refused
from noema.core.language import gettext, written
from noema.formats.days import day
from noema.web.account.views import account
from noema.web.assigning.changing import changing
from noema.web.assigning.views import assigning
from noema.web.bench.class_views import class_bench
from noema.web.bench.views import bench
from noema.web.classes.settings import class_settings
from noema.web.classes.views import classes
from noema.web.cupboard.views import cupboard
from noema.web.drawings.named import names_shown
from noema.web.erasure.views import erasure
from noema.web.eye.views import eye
from noema.web.first_run.views import first_run
from noema.web.frame.access import load_user, require_log_in
from noema.web.frame.bad_bytes import RowNumber, refuse_nul
from noema.web.frame.bodies import limit_body
from noema.web.frame.clock import here, moment, short_moment
from noema.web.frame.headers import keep_little
from noema.web.frame.kept_session import KeptSessions
from noema.web.frame.noted import note_listed
from noema.web.frame.once import once
from noema.web.frame.page import counted
from noema.web.frame.refusals import show_away, show_http_error, show_refusal, show_unkeepable
from noema.web.frame.request import Parts, attach
from noema.web.frame.rights import may
from noema.web.frame.weeks import due_said
from noema.web.handing_in.again import again
from noema.web.handing_in.aiming import aiming
from noema.web.handing_in.finding import finding
from noema.web.handing_in.pictures import pictures
from noema.web.handing_in.placing import placing
from noema.web.handing_in.views import handing_in
from noema.web.health.views import begin_timing, count_answer, health
from noema.web.help.views import helping, own_help
from noema.web.joining.cards import cards
from noema.web.joining.views import joining
from noema.web.keys.views import keys
from noema.web.language.catalogues import speak
from noema.web.language.views import language
from noema.web.logbook.class_views import class_logbook
from noema.web.logbook.views import logbook
from noema.web.logging_in.by_school import (
    IdentityService,
    attach_identity_service,
    by_school,
)
from noema.web.logging_in.views import logging_in
from noema.web.paint_from.pages import class_pictures, own_pictures
from noema.web.painting.views import painting
from noema.web.paints.asking import asking
from noema.web.paints.exploring import exploring
from noema.web.paints.naming import naming
from noema.web.paints.pairing import pairing
from noema.web.paints.reaching import reaching
from noema.web.paints.swatching import swatching
from noema.web.paints.views import paints
from noema.web.patterns.views import patterns
from noema.web.people.views import people
from noema.web.printers.measuring import measuring
from noema.web.printers.views import printers
from noema.web.printing.views import printing
from noema.web.progress.views import progress
from noema.web.records.views import records
from noema.web.reports.views import reports
from noema.web.returning.views import returning
from noema.web.reviewing.views import reviewing
from noema.web.rubrics.views import rubrics
from noema.web.school.views import school
from noema.web.search.views import search
from noema.web.today.views import today
from noema.web.trial.views import trial
from noema.web.unit.feed import feed
from noema.web.unit.lay_out import lay_out
from noema.web.unit.lesson import lesson
from noema.web.unit.paint import paint
from noema.web.unit.register import register
from noema.web.unit.starting import starting
from noema.web.unit.views import unit
from noema.web.unit.wall import wall
from noema.web.unit.wish import wish

FEATURES = (
    today,
    health,
    school,
    language,
    first_run,
    logging_in,
    by_school,
    account,
    people,
    joining,
    cards,
    painting,
    bench,
    class_bench,
    eye,
    logbook,
    class_logbook,
    own_pictures,
    class_pictures,
    classes,
    class_settings,
    unit,
    starting,
    wish,
    lesson,
    lay_out,
    paint,
    cupboard,
    wall,
    register,
    feed,
    assigning,
    changing,
    search,
    trial,
    helping,
    own_help,
    keys,
    paints,
    reaching,
    exploring,
    pairing,
    asking,
    swatching,
    naming,
    printing,
    printers,
    measuring,
    handing_in,
    aiming,
    again,
    finding,
    placing,
    pictures,
    reviewing,
    patterns,
    rubrics,
    returning,
    progress,
    reports,
    records,
    erasure,
)

CONTENT_SECURITY_POLICY = {
    "default-src": "'self'",
    "img-src": "'self'",
    "object-src": "'none'",
    "base-uri": "'none'",
    "form-action": "'self'",
    "frame-ancestors": "'none'",
}
"""No inline script or style anywhere: swatch colours are SVG fill attributes."""

_MOST_FIELD_BYTES = 2 * 1024 * 1024


def make_application(
    parts: Parts,
    *,
    secret_key: str,
    old_secret_keys: Sequence[str] = (),
    https: bool,
    session_hours: int,
    slows_guessing: bool,
    pseudo_language: bool,
    proxies: int,
    metrics_token: str = "",
    setup_word: str = "",
    identity_service: IdentityService | None = None,
) -> Flask:
    """Make the application over a database, a file store and devices."""
    if len(secret_key) < 32:
        raise Refused(gettext("NOEMA_SECRET_KEY is too short: set at least 32 random characters."))
    app = Flask("noema.web", root_path=str(Path(__file__).parent), template_folder=".")
    app.config.update(
        SECRET_KEY=secret_key,
        SECRET_KEY_FALLBACKS=list(old_secret_keys),
        MAX_FORM_MEMORY_SIZE=_MOST_FIELD_BYTES,
        MAX_FORM_PARTS=200,
        SESSION_COOKIE_HTTPONLY=True,
        SESSION_COOKIE_SAMESITE="Lax",
        SESSION_COOKIE_SECURE=https,
        PERMANENT_SESSION_LIFETIME=timedelta(hours=session_hours),
        WTF_CSRF_TIME_LIMIT=None,
        WTF_CSRF_SSL_STRICT=https,
        SEND_FILE_MAX_AGE_DEFAULT=timedelta(hours=1),
        SLOWS_GUESSING=slows_guessing,
        METRICS_TOKEN=metrics_token,
        SETUP_WORD=setup_word,
    )
    if parts.address:
        app.config["TRUSTED_HOSTS"] = [urlsplit(parts.address).hostname or ""]
    if proxies:
        app.wsgi_app = ProxyFix(  # type: ignore[method-assign]
            app.wsgi_app, x_for=proxies, x_proto=proxies, x_host=proxies
        )
    app.session_interface = KeptSessions()
    app.url_map.converters["int"] = RowNumber
    app.jinja_env.undefined = StrictUndefined
    app.jinja_env.trim_blocks = app.jinja_env.lstrip_blocks = True
    app.before_request(begin_timing)
    app.before_request(limit_body)
    _secure(app, https)
    speak(app, pseudo_language=pseudo_language)
    for kind in (day, moment, short_moment, here, written):
        app.add_template_filter(kind)
    app.add_template_global(once)
    app.add_template_global(counted)
    app.add_template_global(may)
    app.add_template_global(due_said)
    app.add_template_global(names_shown)
    app.after_request(count_answer)
    attach(app, parts)
    attach_identity_service(app, identity_service)
    app.after_request(note_listed)  # before what was done is kept
    app.before_request(refuse_nul)
    app.after_request(keep_little)
    app.register_error_handler(Refused, show_refusal)
    app.register_error_handler(HTTPException, show_http_error)
    app.register_error_handler(OperationalError, show_away)
    app.register_error_handler(DataError, show_unkeepable)
    for feature in FEATURES:
        app.register_blueprint(feature)
    return app


def _secure(app: Flask, https: bool) -> None:
    CSRFProtect(app)
    Talisman(
        app,
        force_https=https,
        strict_transport_security=https,
        session_cookie_secure=https,
        content_security_policy=CONTENT_SECURITY_POLICY,
        referrer_policy="same-origin",
    )
    logins = LoginManager(app)
    logins.user_loader(load_user)
    logins.session_protection = "strong"
    app.before_request(require_log_in)
