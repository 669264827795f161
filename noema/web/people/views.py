"""People who work at a school, and the record of what they did."""

from dataclasses import dataclass
from datetime import UTC, datetime

from flask import Blueprint, Response, redirect, render_template, request, url_for
from werkzeug.wrappers import Response as AnyResponse
from wtforms import Form

from noema.actions import staff as actions
from noema.core.errors import NotFound, Refused
from noema.core.joining.deeds import Deed
from noema.core.joining.role import StaffRole
from noema.core.language import N_, gettext
from noema.devices.mail import Sent
from noema.formats.record_csv import record_csv
from noema.store.accounts import StaffRow, staff_of
from noema.store.people import NO_PASSWORD
from noema.store.record import (
    EntryRow,
    RecordWanted,
    keep_record_months,
    record_months_of,
    record_of,
)
from noema.web.frame.forms import OneOf, TextLine, Whole, read_form
from noema.web.frame.noted import note
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.posting import post, sends
from noema.web.frame.refusals import status_of
from noema.web.frame.request import db, mail_from, me, outbox

people = Blueprint("people", __name__)

_MOST_IN_CSV, _LONGEST_MONTHS = 20_000, 120


@dataclass(frozen=True, kw_only=True)
class PeoplePage:
    """Who works at the school."""

    frame: Frame
    staff: tuple[StaffRow, ...]
    me: int
    roles: tuple[StaffRole, ...]
    sends: bool
    letters: tuple[Sent, ...]  # kept, where none are sent
    sentence: str = ""


@dataclass(frozen=True, kw_only=True)
class DonePage:
    """What was done."""

    frame: Frame
    entries: tuple[EntryRow, ...]
    wanted: RecordWanted
    deeds: tuple[Deed, ...]
    months: int
    goes_on: bool
    sentence: str = ""


class InviteForm(Form):
    """Somebody to be invited."""

    email = TextLine()
    name_ = TextLine(name="name")
    role = OneOf(StaffRole, N_("Choose a role."), usual=StaffRole.TEACHER)


class MemberForm(Form):
    """What becomes of somebody."""

    act = TextLine()
    role = OneOf(StaffRole, N_("Choose a role."), usual=StaffRole.TEACHER)


class MonthsForm(Form):
    """For how long the record is kept."""

    months = Whole()


@people.get("/school/people")
def of_school() -> str:
    """Show who works at the school."""
    return render_template("people/people.html", page=_page())


@people.post("/school/people")
def invite() -> AnyResponse | tuple[str, int]:
    """Invite somebody."""
    given = read_form(InviteForm)
    try:
        actions.invite(
            db(),
            me().school_id,
            me().school_name,
            given.email.data,
            given.name_.data,
            given.role.data,
            post(),
        )
    except Refused as refusal:
        return _refused(refusal)
    note(Deed.INVITED, f"{given.name_.data}, {gettext(given.role.data.value)}")
    return redirect(url_for("people.of_school"), 303)


@people.post("/school/people/<int:teacher_id>")
def change(teacher_id: int) -> AnyResponse | tuple[str, int]:
    """Change a role, disable or enable, show out, send a link, or remove."""
    given = read_form(MemberForm)
    try:
        _do(given.act.data, teacher_id, given.role.data)
    except Refused as refusal:
        return _refused(refusal)
    return redirect(url_for("people.of_school"), 303)


def _do(act: str, teacher_id: int, role: StaffRole) -> None:
    school_id, now = me().school_id, datetime.now(UTC)
    if act == "role":
        one = actions.change_role(db(), school_id, teacher_id, role, now)
        note(Deed.ROLE_CHANGED, f"{one.display_name}, {gettext(role.value)}")
    elif act == "link":
        one = actions.send_new_password(db(), school_id, me().school_name, teacher_id, post())
        note(Deed.MAILED, one.display_name)
    elif act in _ACTS:
        how, deed = _ACTS[act]
        note(deed, how(db(), school_id, teacher_id, now).display_name)
    else:
        raise NotFound(gettext("There is nothing of that name to do with somebody."))


_ACTS = {
    "disable": (actions.disable, Deed.DISABLED),
    "enable": (actions.enable, Deed.ENABLED),
    "show-out": (actions.show_out_of, Deed.LOG_INS_ENDED),
    "remove": (actions.remove, Deed.REMOVED),
}


@people.get("/school/record")
def record() -> str:
    """Show what was done."""
    return render_template("people/record.html", page=_record())


@people.get("/school/record.csv")
def record_file() -> Response:
    """Give what was done as a spreadsheet, times in UTC."""
    entries = record_of(db(), me().school_id, _wanted(_MOST_IN_CSV))
    data = record_csv(
        (one.made_at, one.deed.value, one.by_name, one.about, one.address) for one in entries
    )
    note(Deed.EXPORTED, gettext("the record"))
    named = {"Content-Disposition": 'attachment; filename="record.csv"'}
    return Response(data, mimetype="text/csv", headers=named)


@people.post("/school/record")
def keep_for() -> AnyResponse | tuple[str, int]:
    """Choose for how many months the record is kept."""
    months = read_form(MonthsForm).months.data or 0
    if not 1 <= months <= _LONGEST_MONTHS:
        refusal = Refused(gettext("Keep it 1 to %(most)s months.", most=_LONGEST_MONTHS))
        page = _record(str(refusal))
        return render_template("people/record.html", page=page), status_of(refusal)
    keep_record_months(db(), me().school_id, months)
    return redirect(url_for("people.record"), 303)


def _wanted(most: int) -> RecordWanted:
    deeds = {deed.value: deed for deed in Deed}
    return RecordWanted(
        deed=deeds.get(request.args.get("deed", "")),
        words=request.args.get("find", "").strip()[:80],
        before=request.args.get("before", type=int),
        most=most,
    )


def _record(sentence: str = "") -> DonePage:
    wanted = _wanted(RecordWanted().most)
    entries = record_of(db(), me().school_id, wanted)
    return DonePage(
        frame=frame(Stage.PLAN),
        entries=entries,
        wanted=wanted,
        deeds=tuple(Deed),
        months=record_months_of(db(), me().school_id),
        goes_on=len(entries) == wanted.most,
        sentence=sentence,
    )


def _refused(refusal: Refused) -> tuple[str, int]:
    page = _page(str(refusal))
    return render_template("people/people.html", page=page), status_of(refusal)


def _page(sentence: str = "") -> PeoplePage:
    staff = tuple(staff_of(db(), me().school_id, datetime.now(UTC), NO_PASSWORD))
    ours = {one.email for one in staff}
    kept = () if sends() else outbox().sent_by(mail_from())
    return PeoplePage(
        frame=frame(Stage.PLAN),
        staff=staff,
        me=me().id,
        roles=tuple(StaffRole),
        sends=sends(),
        letters=tuple(letter for letter in kept if letter.to in ours),
        sentence=sentence,
    )
