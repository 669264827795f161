"""What tests of units share: a class whose school has said its days, and its plan."""

from datetime import UTC, datetime

from noema.actions.plan_unit import plan_unit
from noema.formats.kept_plan_json import kept_plan_from_json
from noema.store.units import unit_of_class

LONG_AGO = datetime(2020, 1, 1, tzinfo=UTC)
ROOM = {"room": "12", "rack": "50", "sinks": "2", "brushes": "", "palettes": "", "jars": ""}
DAYS = {"begins": "2027-01-11", "ends": "2027-03-26", "holidays": "", "periods": "", **ROOM}


def plan_now(school, now=LONG_AGO, class_id=None):
    with school.sessions.begin() as session:
        plan_unit(session, class_id or school.class_id, now)


def kept(school, class_id=None):
    with school.sessions() as session:
        row = unit_of_class(session, class_id or school.class_id)
    return row, kept_plan_from_json(row.plan)


def add(client, school, kind, **rest):
    form = {"kind": kind, "set": "split-six+black", "medium": "acrylic", **rest}
    return client.post(f"/classes/{school.class_id}/unit/wishes", data=form)


def page(client, school):
    return client.get(f"/classes/{school.class_id}/unit").text
