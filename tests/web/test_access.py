"""Who may reach what: every route for every kind of person, generated from the URL map."""

from dataclasses import replace
from datetime import date

import pytest
from numpy.random import default_rng

from noema.actions.calibrate_printer import own_printer
from noema.actions.create_school import add_colleague
from noema.actions.make_class import enrol_students, make_class
from noema.actions.practise import BenchPaints, begin, paints_to_json
from noema.actions.train_eye import begin_asking
from noema.core.bench.making import free_task
from noema.core.joining.role import StaffRole
from noema.core.logbook.entry import Entry, EntryKind
from noema.core.pigments.shelf import builtin_set
from noema.core.seeing.series import Screen, SeriesKind
from noema.formats.bench_task_json import task_to_json
from noema.store.bench import GivenTask, Practiser, give_task
from noema.store.class_teachers import share_class
from noema.store.classes import students_of_class
from noema.store.cupboard import add_containers, containers_of
from noema.store.logbook import LogScope, LogSource, add_entries, latest_entries
from noema.store.passkeys import add_passkey, passkeys_of
from noema.store.photographs import photo_of_school
from noema.store.phrases import keep_phrase, phrases_for
from noema.store.student_work import UploadRow, add_upload
from noema.store.students import student_by_id
from noema.store.unit_patterns import keep_unit_pattern, unit_patterns_of
from noema.web.frame.access import ASKED_BY_PAGES, OPEN_TO_ALL
from noema.web.frame.rights import right_of
from tests.pictured import pictured
from tests.trade import NAMES, PASSWORD

ME, GONE, LOG_IN, NOT_YOURS = (200, 302, 303), (404,), (302,), (403,)

# What each page asks for: nothing of a school, or something that belongs to one.
BELONGS_TO_NOBODY = {
    "school.keep_days",
    "today.home",
    "search.find",
    "trial.page",
    "trial.hand_in",
    "trial.sheet",
    "today.put_away",
    "helping.guide",
    "helping.picture",
    "today.how_far",
    "today.stages",
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
    "aiming.seen",
    "again.page",
    "again.start",
    "again.tray",
    "handing_in.photograph",
    "handing_in.hand_in",
    "handing_in.begin_batch",
    "reviewing.queue",
    "rubrics.rubric",
    "rubrics.write",
    "returning.overview",
    "progress.overview",
    "logging_in.log_out",
    "reports.sent",
    "records.rosters",
    "records.take",
    "records.take_set",
    "records.give",
    "records.school_archive",
    "erasure.keeping",
    "erasure.leaving",
    "erasure.originals",
    "erasure.keep",
    "erasure.remove",
    "school.of_school",
    "school.planned",
    "people.of_school",
    "people.invite",
    "people.record",
    "people.record_file",
    "people.keep_for",
    "account.of_mine",
    "account.rename",
    "account.new_email",
    "account.new_password",
    "account.begin_codes",
    "account.confirm_codes",
    "account.end_codes",
    "account.end_others",
    "account.begin_passkey",
    "account.keep_passkey",
    "school.holidays_in",
    "feed.of_school",
    "feed.give_mine",
    "feed.end_mine",
    "cupboard.of_school",
    "cupboard.put",
    "cupboard.lead",
    "cupboard.order_sheet",
    "cupboard.order_paper",
    "cupboard.stand_in",
    "school.keep",
    "school.keep_language",
}
OF_ONE_PICTURE = {
    "spots", "point", "take_out", "remove", "image", "values", "plan_on_paper", "tubes",
    "look_through", "schemes", "carry_scheme", "carry", "easel", "held", "held_photo",
    "place_outline", "place", "note",
}  # fmt: skip
OF_ANY_STUDENT = {
    "own_help.own_guide",
    "painting.worker",
    "own_help.own_picture",
    "painting.due", "painting.progress", "painting.look", "painting.seen", "bench.of_mine",
    "bench.begin_one", "eye.of_mine", "eye.paper", "eye.paper_seen",
    "eye.begin", "eye.screen", "eye.screen_seen",
    "logbook.of_mine", "logbook.note", "logbook.take", "logbook.carry",
    "own_pictures.of_pictures", "own_pictures.add", "own_pictures.strip",
    "own_pictures.hold_paint",
}  # fmt: skip
OF_A_CLASS_S_STUDENTS = {
    "painting.exercise",
    "painting.photograph",
    "painting.hand_in",
    "painting.begin",
    "painting.again",
}
OF_ONE_STUDENT = {
    "painting.handed_in",
    "painting.check",
    "painting.original",
    "painting.straight",
    "painting.sheet_pdf",
    "painting.how_far",
    "painting.add",
    "bench.of_one",
    "bench.do_one",
    "bench.end_one",
    "eye.of_one",
    "eye.answer_one",
    "logbook.remove",
    *(f"own_pictures.{page}" for page in OF_ONE_PICTURE),
}
OF_STUDENTS = OF_ANY_STUDENT | OF_A_CLASS_S_STUDENTS | OF_ONE_STUDENT
OF_BOTH = {"joining.leave"}
BELONGS_TO_A_SCHOOL = {
    "lesson.of_class",
    "lesson.on_paper",
    "wall.show",
    "register.mark",
    "paint.of_unit",
    "paint.order",
    "feed.file",
    "feed.give",
    "feed.end",
    "lesson.went",
    "unit.of_class",
    "unit.planned",
    "unit.timetable",
    "unit.add",
    "unit.change",
    "unit.hold",
    "unit.take",
    "unit.undo",
    "unit.besides",
    "unit.keep_week",
    "unit.order",
    "unit.move",
    "starting.start_from",
    "starting.keep",
    "starting.forget",
    "starting.lessons_in",
    "wish.of_class",
    "wish.choose",
    "lay_out.of_lesson",
    "lay_out.change",
    "lesson.paint_used",
    "cupboard.count",
    "cupboard.take_out",
    "account.end_one",
    "account.remove_passkey",
    "cards.of_class",
    "cards.replace",
    "cards.show",
    "progress.skills",
    "progress.glance",
    "progress.for_parents",
    "reports.of_student",
    "reports.mail",
    "reports.notebook_of",
    "reports.of_class",
    "records.of_class",
    "records.assign_key",
    "records.grades",
    "records.grade_grid",
    "records.results",
    "records.measurements",
    "records.due",
    "records.class_archive",
    "records.key_file",
    "erasure.of_student",
    "erasure.move",
    "erasure.merge",
    "erasure.erase",
    "erasure.archive",
    "erasure.term",
    "classes.of_class",
    "classes.look_at_roster",
    "classes.take_roster",
    "assigning.assign",
    "assigning.preview",
    "assigning.assign_now",
    "assigning.key_sheet",
    "keys.key",
    "keys.progress",
    "keys.key_sheet",
    "keys.own_sheet",
    "keys.approve",
    "keys.tubes",
    "paints.of_set",
    "paints.file",
    "paints.change",
    "paints.change_now",
    "paints.remove",
    "reaching.reach_page",
    "exploring.explore",
    "pairing.pairs",
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
    "handing_in.batch",
    "handing_in.add_to_batch",
    "handing_in.another",
    "handing_in.match",
    "handing_in.put_aside",
    "placing.page",
    "finding.whose",
    "placing.placed",
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
    "patterns.answer",
    "rubrics.drop",
    "returning.slip",
    "returning.slips",
    "class_settings.of_settings",
    "class_settings.change",
    "class_settings.size_cells",
    "class_settings.speak",
    "class_settings.share",
    "class_settings.name_student",
    "class_settings.help_one",
    "changing.of_assignment",
    "changing.change",
    "changing.terms",
    "changing.withdraw",
    "people.change",
    "keys.hold",
    "returning.again",
    "progress.of_class",
    "progress.of_student",
    "class_bench.of_class",
    "class_bench.begin_one",
    "class_bench.of_one",
    "class_bench.do_one",
    "class_bench.end_one",
    "class_bench.give",
    "class_bench.give_pile",
    "class_bench.take_back",
    "class_bench.name_colours",
    "class_bench.eye_paper",
    "class_logbook.of_class",
    "class_logbook.carry",
    *(
        f"class_pictures.{page}"
        for page in ("of_pictures", "add", "strip", "hold_paint", *OF_ONE_PICTURE)
    ),
}
# Of a school rather than of one of its classes: paints, printers, the cupboard.
OF_THE_WHOLE_SCHOOL = {
    "paints.of_set",
    "paints.file",
    "paints.change",
    "paints.change_now",
    "paints.remove",
    "reaching.reach_page",
    "exploring.explore",
    "pairing.pairs",
    "asking.exercises",
    "asking.asked",
    "asking.key_sheet",
    "swatching.tube",
    "swatching.remove",
    "printers.printer",
    "printers.calibration_pdf",
    "printers.photographs",
    "printers.measurements",
    "printers.anew",
    "printers.choose",
    "measuring.page",
    "measuring.measure",
    "rubrics.drop",
    "people.change",
    "cupboard.count",
    "cupboard.take_out",
}
# Refused for another reason than whose it is: nothing to do, or nothing sent.
ALSO = {
    "classes.make": (422,), "handing_in.hand_in": (422,), "classes.take_roster": (422,),
    "handing_in.add_to_batch": (422,), "handing_in.match": (422,), "handing_in.put_aside": (422,),
    "handing_in.another": (422,),
    "returning.again": (422,), "handing_in.begin_batch": (201,), "paints.keep": (422,),
    "paints.change_now": (422,), "swatching.swatch_tube": (422,), "swatching.remove": (422,),
    "naming.name_now": (422,), "keys.approve": (422,), "keys.tubes": (422,), "printers.add": (422,),
    "patterns.answer": (422,), "helping.picture": (404,),
    "trial.hand_in": (422,), "trial.sheet": (422,),
    "own_help.own_picture": (404,),
    "aiming.look": (422,), "aiming.seen": (404,),
    "placing.place": (422,), "measuring.measure": (422,),
    "reviewing.take_all_back": (422,), "reviewing.give": (422,), "rubrics.write": (422,),
     "reviewing.accept_all": (422,), "class_settings.speak": (422,),
    "reports.mail": (422,), "erasure.erase": (422,), "erasure.remove": (422,),
    "records.take": (422,), "school.keep": (422,),
    "school.keep_language": (422,), "unit.take": (404,), "unit.undo": (422,),
    "lesson.of_class": (404,), "lesson.on_paper": (404,), "lesson.went": (404,),
    "wall.show": (404,), "register.mark": (404,),
    "paint.of_unit": (404,), "paint.order": (404,),
    "feed.file": (404,), "feed.give": (404,), "feed.of_school": (404,),
    "school.holidays_in": (422,), "cupboard.stand_in": (404,), "unit.move": (404,),
    "starting.lessons_in": (422,), "wish.of_class": (404,), "wish.choose": (404,),
    "lay_out.of_lesson": (404,), "lay_out.change": (404,), "lesson.paint_used": (404,),
    "people.invite": (422,), "people.keep_for": (422,), "people.change": (404,),
    "account.rename": (422,), "account.new_email": (403,), "account.new_password": (403,),
    "account.confirm_codes": (403,), "account.end_one": (404,), "account.end_codes": (403,),
    "account.begin_passkey": (403,), "account.keep_passkey": (409,),
    "account.remove_passkey": (404,),
    "class_settings.share": (404,), "records.assign_key": (422,), "records.take_set": (422,),
    "painting.look": (422,), "painting.seen": (404,), "painting.hand_in": (422,),
    "painting.begin": (422,), "erasure.move": (404,), "erasure.merge": (404,),
    "painting.add": (409,),
    "bench.do_one": (409,), "class_bench.do_one": (404,), "class_bench.end_one": (404,),
    "class_bench.give_pile": (404,), "class_bench.eye_paper": (422,),
    "eye.paper_seen": (404,), "eye.screen": (422,), "eye.screen_seen": (422,),
    "eye.answer_one": (409, 422), "logbook.note": (422,), "logbook.take": (422,),
    **{
        f"{pages}.{page}": (422,)
        for pages in ("own_pictures", "class_pictures")
        for page in ("hold_paint", "place", "note")
    },
    "printers.add_card": (422,), "printers.photographs": (422,), "printers.measurements": (422,),
}  # fmt: skip
FORMS = {
    "reviewing.decide": {"verb": "leave-out", "cell": "c1"},
    "reviewing.give": {"sheet": "{sheet_id}"},
    "reviewing.take_all_back": {"photograph": "{photograph_id}"},
    "class_settings.speak": {"audience": "adult"},
    "class_settings.change": {"name": "Year 8", "starts_on": "2026-09-07", "weeks": "12"},
    "class_settings.name_student": {"name": "Ada Moss"},
    "changing.change": {"title": "Greys", "due_on": "2026-10-16"},
    "changing.withdraw": {"do": "give"},
    "patterns.answer": {"answer": "taught"},
    "school.keep_days": {"begins": "2027-01-11", "ends": "2027-02-26", "room": "12", "rack": "40"},
    "unit.besides": {"at": "2027-01-12T09:40", "minutes": "50"},
    "unit.keep_week": {"day": "2027-01-12", "do": "keep"},
    "starting.keep": {"name": "Ours"},
    "cupboard.put": {"tube": "rose", "medium": "acrylic", "size": "75", "count": "1"},
    "cupboard.count": {"left": "40"},
    "cupboard.lead": {"days": "10"},
    "unit.timetable": {"lessons": "Tue 9:40 50"},
    "unit.add": {"kind": "value-scale", "medium": "acrylic"},
    "unit.change": {"act": "up"},
    "unit.hold": {"at": "2027-01-12T09:40"},
    "starting.start_from": {"unit": "six-weeks-acrylic"},
    "keys.hold": {"key": "own-ends", "level": "advanced"},
    "bench.begin_one": {"task": "free"},
    "bench.do_one": {"do": "wipe", "acts": "0"},
    "eye.begin": {"kind": "value"},
    "eye.answer_one": {"number": "1", "choice": "0"},
    "class_bench.begin_one": {"task": "free"},
    "class_bench.do_one": {"do": "wipe", "acts": "0"},
    "class_bench.give": {"task": "dark"},
    **{
        f"{pages}.{page}": sent
        for pages in ("own_pictures", "class_pictures")
        for page, sent in (("add", {"scene": "bird"}), ("point", {"x": "50", "y": "60"}))
    },
}
SPARE = {  # what may be taken away while others are looked at
    "paints.remove": ("set_ref", "spare_set_ref"),
    "cupboard.take_out": ("container_id", "spare_container_id"),
    "class_bench.take_back": ("task_id", "spare_task_id"),
    **{
        f"{pages}.{page}": (name, f"spare_{name}")
        for pages in ("own_pictures", "class_pictures")
        for page, name in (("remove", "picture_id"), ("take_out", "spot_id"))
    },
}


@pytest.fixture
def addresses(school):
    """What stands in for the variable parts of an address: things of the first school."""
    photo = school.reviewable()
    sheet = school.sheets()[0]
    with school.sessions() as session:
        batch = photo_of_school(session, school.id, photo).batch_id
        printer = own_printer(session, school.id, "Office")
        keep_phrase(session, school.id, "strays", "Look once more.")
        phrase = phrases_for(session, school.id, ["strays"])[0].id
        add_containers(session, school.id, [("rose", "acrylic", "rose", 75.0)] * 2)
        container, spare = (one.id for one in containers_of(session, school.id))
        scale = {"id": "scale", "kind": "value-scale"}
        keep_unit_pattern(session, school.id, "Six weeks", [scale])
        pattern = unit_patterns_of(session, school.id)[0].id
        add_passkey(
            session,
            school.teacher_id,
            credential=str(school.id).encode(),
            public_key=b"k",
            uses=0,
            device="a phone",
        )
        passkey = passkeys_of(session, school.teacher_id)[0].id
        practised = _practised(session, school, sheet.student_id)
        practised |= pictured(session, school, sheet.student_id)
        session.commit()
    return {
        **practised,
        "passkey_id": passkey,
        "phrase_id": phrase,
        "class_id": school.class_id,
        "assignment_id": school.assignment_id,
        "sheet_id": sheet.id,
        "student_id": sheet.student_id,
        "photograph_id": photo,
        "batch_id": batch,
        "set_ref": school.puts_together(
            "Room 3", "rose", "cyan", "lemon-yellow", school.swatches("Our red")
        ),
        "spare_set_ref": school.puts_together("Spare", "rose", "cyan"),
        "tube_name": "own-our-red",
        "printer_id": printer,
        "paper": "a4",
        "wish_id": "scale",
        "at": "2027-01-12T0940",
        "form": "csv",
        "teacher_id": school.teacher_id,
        "named": "0" * 12,
        "container_id": container,
        "spare_container_id": spare,
        "pattern_id": pattern,
        "medium": "acrylic",
        "tube": "rose",
        "upload_id": _on_its_way(school, sheet.student_id),
    }


def _practised(session, school, student_id):
    """A go at the bench, a series, a note and two tasks that were given."""
    paints = BenchPaints(paints=builtin_set("split-six"))
    who = Practiser(school_id=school.id, class_id=school.class_id, student_id=student_id)
    student = student_by_id(session, student_id)
    tasks = [
        give_task(
            session,
            school.id,
            GivenTask(
                id=0,
                class_id=school.class_id,
                title="",
                task=task_to_json(free_task()),
                paints=paints_to_json(paints),
                due_on=None,
            ),
        )
        for _ in range(2)
    ]
    source = LogSource(school_id=school.id, class_id=school.class_id, student_id=student_id)
    entry = Entry(kind=EntryKind.NOTE, title="a grey", lab=(50.0, 0.0, 0.0))
    add_entries(session, source, [entry])
    screen = Screen(dark_steps=5, light_steps=5, light_on_it=False)
    own = LogScope(school_id=school.id, student_id=student_id)
    return {
        "practice_id": begin(session, who, paints, free_task()),
        "series_id": begin_asking(session, student, SeriesKind.VALUE, screen, default_rng(1)),
        "task_id": tasks[0],
        "spare_task_id": tasks[1],
        "entry_id": latest_entries(session, own)[0].id,
    }


def _on_its_way(school, student_id):
    """A photograph of which some has come."""
    name = f"{school.id:032x}"
    with school.sessions.begin() as session:
        add_upload(
            session,
            student_id,
            UploadRow(id=name, assignment_id=school.assignment_id, name="a", size_bytes=9),
        )
    return name


def routes(app):
    for rule in app.url_map.iter_rules():
        for method in sorted(rule.methods - {"HEAD", "OPTIONS"}):
            yield rule, method


def students_routes(app):
    return [(rule, method) for rule, method in routes(app) if rule.endpoint in OF_STUDENTS]


def filled(rule, addresses):
    url = rule.rule
    for name, value in addresses.items():
        url = url.replace(f"<int:{name}>", str(value)).replace(f"<{name}>", str(value))
    return url


def ask(client, rule, method, addresses):
    if rule.endpoint in SPARE:
        name, spare = SPARE[rule.endpoint]
        addresses = {**addresses, name: addresses[spare]}
    url = filled(rule, addresses)
    sent = {name: value.format(**addresses) for name, value in FORMS.get(rule.endpoint, {}).items()}
    return client.open(url, method=method, data=sent).status_code


def test_every_route_has_a_rule(app):
    known = BELONGS_TO_NOBODY | BELONGS_TO_A_SCHOOL | OPEN_TO_ALL | OF_STUDENTS | OF_BOTH
    assert {rule.endpoint for rule, _ in routes(app)} == known


def test_a_visitor_is_sent_to_their_door(app, addresses):
    client = app.test_client()
    for rule, method in routes(app):
        if rule.endpoint not in OPEN_TO_ALL:
            turned_away = (204,) if rule.endpoint in ASKED_BY_PAGES else LOG_IN
            assert ask(client, rule, method, addresses) in turned_away, rule


def test_a_student_reaches_their_own_pages(app, school, addresses):
    client = school.student(app)
    for rule, method in students_routes(app):
        status = ask(client, rule, method, addresses)
        assert status in (*ME, *ALSO.get(rule.endpoint, ())), (rule, method, status)


def test_another_student_reaches_the_exercise_but_not_the_sheet(app, school, addresses):
    client = school.student(app, school.sheets()[1].student_id)
    for rule, method in students_routes(app):
        status = ask(client, rule, method, addresses)
        if rule.endpoint in OF_ONE_STUDENT:
            assert status in GONE, (rule, method, status)
        else:
            assert status in (*ME, *ALSO.get(rule.endpoint, ())), (rule, method, status)


@pytest.mark.parametrize("whose", ["another class", "another school"])
def test_a_student_from_elsewhere_reaches_nothing(app, school, other_school, addresses, whose):
    client = school_mate(app, school) if whose == "another class" else other_school.student(app)
    for rule, method in students_routes(app):
        if rule.endpoint in OF_A_CLASS_S_STUDENTS | OF_ONE_STUDENT:
            status = ask(client, rule, method, addresses)
            assert status in GONE, (rule, method, status)


def school_mate(app, school):
    """A student of the same school who is in another class."""
    with school.sessions.begin() as session:
        class_id = make_class(session, school.id, "Year 9", date(2026, 9, 7), 12)
        enrol_students(session, school.id, class_id, "Elsa Kranz")
        student = students_of_class(session, class_id)[0]
    return replace(school, class_id=class_id).student(app, student.id)


def test_no_student_reaches_a_teachers_page(app, school, addresses):
    client = school.student(app)
    for rule, method in routes(app):
        if rule.endpoint not in OF_STUDENTS | OPEN_TO_ALL | OF_BOTH:
            assert ask(client, rule, method, addresses) in NOT_YOURS, (rule, method)


def test_no_teacher_reaches_a_students_page(app, school, addresses):
    client = school.teacher(app)
    for rule, method in routes(app):
        if rule.endpoint in OF_STUDENTS:
            assert ask(client, rule, method, addresses) in NOT_YOURS, (rule, method)


def test_a_students_pages_name_nobody_else(app, school, addresses):
    client = school.student(app)
    others = [sheet.student for sheet in school.sheets()[1:]]
    assert len(others) == len(NAMES) - 1
    for rule, method in routes(app):
        if method == "GET" and rule.endpoint in OF_STUDENTS - {"painting.sheet_pdf"}:
            said = client.get(filled(rule, addresses)).get_data()
            assert not any(name.encode() in said for name in others), rule


def works_at(school, role, *, shares):
    """Somebody else of a school, with or without its class; gives the e-mail they log in with."""
    email = f"{role.value}{shares}{school.id}@school.example"
    with school.sessions.begin() as session:
        number = add_colleague(session, school.id, email, "Mx Gris", PASSWORD, role)
        if shares:
            share_class(session, school.class_id, number)
    return email


def routes_of_teachers(app):
    others = OPEN_TO_ALL | OF_STUDENTS | OF_BOTH | {"logging_in.log_out"}
    return [(rule, method) for rule, method in routes(app) if rule.endpoint not in others]


@pytest.mark.parametrize("role", [StaffRole.TEACHER, StaffRole.ASSISTANT])
def test_a_role_reaches_what_its_rights_allow_and_nothing_else(app, school, addresses, role):
    client = school.teacher(app, works_at(school, role, shares=True))
    for rule, method in routes_of_teachers(app):
        status = ask(client, rule, method, addresses)
        if right_of(rule.endpoint) in role.rights:
            assert status in (*ME, *ALSO.get(rule.endpoint, ())), (rule, method, status)
        else:
            assert status in NOT_YOURS, (rule, method, status)


def test_an_administrator_reaches_all_whether_shared_or_not(app, school, addresses):
    client = school.teacher(app, works_at(school, StaffRole.ADMINISTRATOR, shares=False))
    for rule, method in routes_of_teachers(app):
        status = ask(client, rule, method, addresses)
        assert status in (*ME, *ALSO.get(rule.endpoint, ())), (rule, method, status)


@pytest.mark.parametrize("role", [StaffRole.TEACHER, StaffRole.ASSISTANT])
def test_of_a_class_that_isnt_shared_nothing_is_there(app, school, addresses, role):
    client = school.teacher(app, works_at(school, role, shares=False))
    for rule, method in routes_of_teachers(app):
        if right_of(rule.endpoint) not in role.rights or rule.endpoint in OF_THE_WHOLE_SCHOOL:
            continue
        if rule.endpoint in BELONGS_TO_A_SCHOOL:
            assert ask(client, rule, method, addresses) in GONE, (rule, method)


def test_lists_name_nobody_of_a_class_that_isnt_shared(app, school, addresses):
    client = school.teacher(app, works_at(school, StaffRole.TEACHER, shares=False))
    names = [sheet.student.encode() for sheet in school.sheets()]
    for rule, method in routes_of_teachers(app):
        if method == "GET" and rule.endpoint in BELONGS_TO_NOBODY:
            said = client.get(rule.rule).get_data()
            assert not any(name in said for name in names), rule
            assert b"Year 8" not in said, rule


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
            assert student.encode() not in client.get(rule.rule).get_data()
