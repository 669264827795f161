"""Who may reach what: every route for every kind of person, generated from the URL map."""

import pytest

from noema.actions.calibrate_printer import own_printer
from noema.store.photographs import photo_of_school
from noema.store.phrases import keep_phrase, phrases_for
from noema.web.frame.access import OPEN_TO_ALL

ME, GONE, LOG_IN = (200, 302, 303), (404,), (302,)

# What each page asks for: nothing of a school, or something that belongs to one.
BELONGS_TO_NOBODY = {
    "today.home",
    "classes.plan",
    "classes.new_class",
    "classes.make",
    "paints.shelf",
    "paints.new_set",
    "paints.preview",
    "paints.keep",
    "swatching.new_tube",
    "swatching.swatch_tube",
    "naming.hues",
    "naming.name_now",
    "printing.overview",
    "printers.overview",
    "printers.add",
    "printers.add_card",
    "aiming.camera",
    "aiming.advice",
    "aiming.look",
    "again.page",
    "again.start",
    "handing_in.photograph",
    "handing_in.hand_in",
    "handing_in.begin_pile",
    "reviewing.pile",
    "rubrics.rubric",
    "rubrics.write",
    "returning.overview",
    "progress.overview",
    "logging_in.log_out",
}
BELONGS_TO_A_SCHOOL = {
    "classes.of_class",
    "classes.look_at_roster",
    "classes.take_roster",
    "assigning.assign",
    "assigning.preview",
    "assigning.assign_now",
    "assigning.key_sheet",
    "keys.key",
    "keys.key_sheet",
    "keys.own_sheet",
    "keys.approve",
    "paints.of_set",
    "paints.file",
    "paints.change",
    "paints.change_now",
    "paints.remove",
    "reaching.reach_page",
    "exploring.explore",
    "exploring.found",
    "asking.exercises",
    "asking.asked",
    "asking.key_sheet",
    "swatching.tube",
    "swatching.remove",
    "printing.sheets",
    "printing.make_sheets",
    "printing.pdf",
    "printing.svg",
    "printing.layout",
    "printers.printer",
    "printers.calibration_pdf",
    "printers.photographs",
    "printers.measurements",
    "printers.anew",
    "printers.choose",
    "measuring.page",
    "measuring.measure",
    "handing_in.pile",
    "handing_in.add_to_pile",
    "handing_in.match",
    "handing_in.put_aside",
    "placing.page",
    "placing.place",
    "pictures.original",
    "pictures.straight",
    "reviewing.desk",
    "reviewing.decide",
    "reviewing.holding",
    "reviewing.accept_all",
    "reviewing.take_all_back",
    "reviewing.whose",
    "reviewing.give",
    "patterns.of_exercise",
    "patterns.hand_out",
    "rubrics.drop",
    "returning.slip",
    "returning.slips",
    "classes.speak",
    "keys.hold",
    "returning.again",
    "progress.of_class",
    "progress.of_student",
}
# Refused for another reason than whose it is: nothing to do, or nothing sent.
ALSO = {
    "classes.make": (422,), "handing_in.hand_in": (422,), "classes.take_roster": (422,),
    "handing_in.add_to_pile": (422,), "handing_in.match": (422,), "handing_in.put_aside": (422,),
    "returning.again": (422,), "handing_in.begin_pile": (201,), "paints.keep": (422,),
    "paints.change_now": (422,), "swatching.swatch_tube": (422,), "swatching.remove": (422,),
    "naming.name_now": (422,), "keys.approve": (422,), "printers.add": (422,),
    "aiming.look": (422,), "placing.place": (422,), "measuring.measure": (422,),
    "reviewing.take_all_back": (422,), "reviewing.give": (422,), "rubrics.write": (422,),
     "reviewing.accept_all": (422,), "classes.speak": (422,),
    "printers.add_card": (422,), "printers.photographs": (422,), "printers.measurements": (422,),
}  # fmt: skip
FORMS = {
    "reviewing.decide": {"verb": "leave-out", "cell": "c1"},
    "reviewing.give": {"sheet": "{sheet_id}"},
    "reviewing.take_all_back": {"photograph": "{photograph_id}"},
    "classes.speak": {"audience": "adult"},
    "keys.hold": {"key": "own-ends", "level": "advanced"},
}
SPARE = {"paints.remove": "spare_set_ref"}  # what may be taken away while others are looked at


@pytest.fixture
def addresses(school):
    """What stands in for the variable parts of an address: things of the first school."""
    photo = school.reviewable()
    sheet = school.sheets()[0]
    with school.sessions() as session:
        pile = photo_of_school(session, school.id, photo).pile_id
        printer = own_printer(session, school.id, "Office")
        keep_phrase(session, school.id, "strays", "Look once more.")
        phrase = phrases_for(session, school.id, ["strays"])[0].id
        session.commit()
    return {
        "phrase_id": phrase,
        "class_id": school.class_id,
        "assignment_id": school.assignment_id,
        "sheet_id": sheet.id,
        "student_id": sheet.student_id,
        "photograph_id": photo,
        "pile_id": pile,
        "set_ref": school.puts_together(
            "Room 3", "rose", "cyan", "lemon-yellow", school.swatches("Our red")
        ),
        "spare_set_ref": school.puts_together("Spare", "rose", "cyan"),
        "tube_name": "own-our-red",
        "printer_id": printer,
        "paper": "a4",
    }


def routes(app):
    for rule in app.url_map.iter_rules():
        for method in sorted(rule.methods - {"HEAD", "OPTIONS"}):
            yield rule, method


def ask(client, rule, method, addresses):
    url = rule.rule
    if rule.endpoint in SPARE:
        addresses = {**addresses, "set_ref": addresses[SPARE[rule.endpoint]]}
    for name, value in addresses.items():
        url = url.replace(f"<int:{name}>", str(value)).replace(f"<{name}>", str(value))
    sent = {name: value.format(**addresses) for name, value in FORMS.get(rule.endpoint, {}).items()}
    return client.open(url, method=method, data=sent).status_code


def test_every_route_has_a_rule(app):
    known = BELONGS_TO_NOBODY | BELONGS_TO_A_SCHOOL | OPEN_TO_ALL
    assert {rule.endpoint for rule, _ in routes(app)} == known


def test_a_visitor_is_sent_to_log_in(app, addresses):
    client = app.test_client()
    for rule, method in routes(app):
        if rule.endpoint not in OPEN_TO_ALL:
            assert ask(client, rule, method, addresses) in LOG_IN, rule


@pytest.mark.parametrize("who", ["email", "colleague_email"])
def test_a_teacher_reaches_all_of_their_school(app, school, addresses, who):
    client = school.teacher(app, getattr(school, who))
    for rule, method in routes(app):
        if rule.endpoint in OPEN_TO_ALL or rule.endpoint == "logging_in.log_out":
            continue
        status = ask(client, rule, method, addresses)
        assert status in (*ME, *ALSO.get(rule.endpoint, ())), (rule, method, status)


def test_another_school_reaches_none_of_it(app, other_school, addresses):
    client = other_school.teacher(app)
    for rule, method in routes(app):
        if rule.endpoint in BELONGS_TO_A_SCHOOL:
            assert ask(client, rule, method, addresses) in GONE, (rule, method)


def test_pages_of_one_school_name_nobody_of_another(app, school, other_school, addresses):
    client = other_school.teacher(app)
    student = school.sheets()[0].student
    for rule, method in routes(app):
        if method == "GET" and rule.endpoint in BELONGS_TO_NOBODY:
            assert student not in client.get(rule.rule).get_data(as_text=True)
