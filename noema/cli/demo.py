"""noema demo: fill an empty database with Saltmarsh Road School.

Every number comes out of the real pipeline: students paint and photograph through the stand-ins,
photographs are handed in, read, judged and reviewed by the same actions the pages use.
"""

from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, replace
from datetime import UTC, date, datetime, timedelta
from functools import partial
from itertools import count
from random import Random

import click
from numpy.random import Generator, default_rng
from sqlalchemy.orm import Session

from noema.actions.assign_exercise import assign_exercise
from noema.actions.choose_audience import choose_audience
from noema.actions.create_school import add_colleague, create_school
from noema.actions.hand_in_photo import hand_in_photo
from noema.actions.make_class import enrol_students, make_class
from noema.actions.print_sheets import drawings, print_again, print_own_sheet, print_sheets
from noema.actions.read_photograph import read_photograph
from noema.actions.review_sheet import review_sheet
from noema.actions.say_to import sentence_of
from noema.actions.work_out_exercise import Chosen, Exercise, exercise_of, for_sheet
from noema.cli.demo_pictures import fill_pictures
from noema.cli.demo_practice import fill_practice
from noema.cli.demo_printers import fill_printers
from noema.cli.demo_shelf import fill_shelf
from noema.cli.demo_students import let_students_think, say_how_students_come_in
from noema.cli.demo_units import fill_cupboard, fill_unit, say_the_days
from noema.core.coaching.audience import Audience
from noema.core.errors import Refused
from noema.core.exercises.catalogue import kind_of, usual_tolerance
from noema.core.exercises.levels import Key
from noema.core.judging.review import Decision, Verb
from noema.core.judging.verdict import Verdict
from noema.core.pigments.shelf import builtin_set
from noema.core.planning.unit import monday_of
from noema.core.sheet.layout import Layout
from noema.devices.file_store import FileStore
from noema.devices.stores_at import files_at
from noema.formats.judgement_json import tally_from_json
from noema.formats.layout_json import layout_from_json
from noema.formats.sheet_pdf import sheets_pdf
from noema.settings import settings_from
from noema.stand_ins.mishap import Mishap
from noema.stand_ins.painter import Hand
from noema.stand_ins.printer import Press
from noema.stand_ins.processes import own_processes
from noema.stand_ins.saltmarsh import (
    CLASSES,
    PASSWORD,
    SCHOOL,
    TEACHERS,
    UNIT_WEEKS,
    WEEK,
    DemoClass,
    Given,
    hand_of,
)
from noema.stand_ins.sitting import Sitting, recipe_of
from noema.stand_ins.student import Mistake, Painted, paint_sheet
from noema.stand_ins.studio import take_picture
from noema.store.assignments import assignment_of_school
from noema.store.class_teachers import share_class
from noema.store.classes import classes_of_school
from noema.store.engine import Sessions, bring_up_to_date, open_engine, open_sessions
from noema.store.paints import own_sets
from noema.store.people import school_by_name, teacher_by_email
from noema.store.photographs import add_batch
from noema.store.reviews import AttemptRow, attempts_of_class
from noema.store.sheets import SheetRow, layouts_of_sheets, sheets_of_assignment
from noema.store.under_way import end_under_way, note_under_way

SIZE_PX = (1520, 1140)
_SEED = 6
_CARE, _ERRS = 0.5, 0.5  # amounts missed beside values missed; first tries with a mistake
_PRINTER = Press(dot_gain=0.08, dyes=(0.1, -0.06, 0.04))
_PHONES = 5
_UNREAD, _UNREAD_WAIT_S = 3, 1800  # photographs left in the queue, so that one sees them wait


@dataclass(frozen=True, kw_only=True)
class Job:
    """A picture to be made by another process."""

    layout: Layout
    pdf: bytes
    seed: int
    hand: Hand
    mishap: Mishap


@dataclass(kw_only=True)
class DemoStory:
    """What the telling needs."""

    session: Session
    files: FileStore
    pool: ProcessPoolExecutor
    rng: Generator
    seeds: Iterator[int]
    today: date
    school_id: int
    teacher_ids: tuple[int, ...]  # who teaches the class, and the colleague
    note: Callable[[int], None]  # how many photographs were read
    read: int = 0

    @property
    def teacher_id(self) -> int:
        """Who teaches it."""
        return self.teacher_ids[0]


@click.command("demo")
@click.option("--begin", is_flag=True, help="Tell of one class only; what is left is told later.")
def command(begin: bool) -> None:
    """Fill an empty database with a made-up school; goes on where it was left."""
    settings = settings_from()
    engine = open_engine(settings.database_url)
    bring_up_to_date(engine)
    sessions, files = open_sessions(engine), files_at(settings.files)
    with own_processes() as pool:
        tell(sessions, files, pool, CLASSES[:1] if begin else CLASSES)
    with sessions() as session:
        say_how_students_come_in(session, SCHOOL, settings.card_key or settings.secret_key)
        left = _left(session) if begin else ()
    if left:
        click.echo(f"  To follow: {', '.join(left)}")


def _left(session: Session) -> tuple[str, ...]:
    school_id = school_by_name(session, SCHOOL)
    rows = () if school_id is None else classes_of_school(session, school_id)
    there = {row.name for row in rows}
    return tuple(one.name for one in CLASSES if one.name not in there)


def tell(
    sessions: Sessions,
    files: FileStore,
    pool: ProcessPoolExecutor,
    classes: Sequence[DemoClass],
) -> None:
    """Tell of the school and of some of its classes, of each that isn't there yet at once."""
    today = datetime.now(UTC).date()
    with sessions.begin() as session:
        school_id = school_by_name(session, SCHOOL) or _found_school(session, today)
    with sessions() as session:
        there = {row.name for row in classes_of_school(session, school_id)}
        staff = {email: teacher_by_email(session, email) for email, _ in TEACHERS}
    missing = [one for one in classes if one.name not in there]
    total, done = sum(one.photographs for one in missing), 0

    def note(photographs: int, name: str) -> None:
        with sessions.begin() as session:
            note_under_way(session, school_id, name, min(done + photographs, total), total)

    for told in missing:
        click.echo(f"  {told.name}: painting, photographing, reading …")
        with sessions.begin() as session:
            story = DemoStory(
                session=session,
                files=files,
                pool=pool,
                rng=default_rng([_SEED, len(told.students)]),
                seeds=count(1000 * len(told.students)),
                today=today,
                school_id=school_id,
                teacher_ids=tuple(one.id for one in staff.values() if one is not None),
                note=partial(note, name=told.name),
            )
            _tell_class(story, told)
        done += told.photographs
    with sessions.begin() as session:
        end_under_way(session, school_id)
        if missing and classes[-1] is CLASSES[-1]:
            # At the end, so that the sheets so far are of printers nobody knew.
            fill_printers(session, school_id)
            fill_cupboard(session, school_id, today)


def _found_school(session: Session, today: date) -> int:
    (email, name), (second_email, second_name) = TEACHERS
    school_id = create_school(session, SCHOOL, email, name, PASSWORD, "Europe/London")
    add_colleague(session, school_id, second_email, second_name, PASSWORD)
    fill_shelf(session, school_id)
    say_the_days(session, school_id, today)
    return school_id


def _tell_class(story: DemoStory, school_class: DemoClass) -> None:
    monday = monday_of(story.today) - timedelta(weeks=WEEK - 1)
    class_id = make_class(
        story.session,
        story.school_id,
        school_class.name,
        monday,
        UNIT_WEEKS,
        taught_by=story.teacher_id,
    )
    if school_class.audience is not Audience.CHILD:  # her colleague teaches the older ones too
        share_class(story.session, class_id, story.teacher_ids[1])
    enrol_students(story.session, story.school_id, class_id, "\n".join(school_class.students))
    choose_audience(story.session, story.school_id, class_id, school_class.audience)
    skills = dict(
        zip(
            school_class.students,
            story.rng.uniform(0.25, 1.0, len(school_class.students)),
            strict=True,
        )
    )
    for given in school_class.given:
        _tell_assignment(story, class_id, given, skills)
    session, school_id = story.session, story.school_id
    let_students_think(session, school_id, class_id, at_once=school_class.sees_at_once)
    fill_unit(session, school_id, class_id, school_class, story.today)
    fill_practice(session, school_id, class_id, story.today)
    fill_pictures(session, story.files, school_id, class_id, school_class.pictures)


def _tell_assignment(
    story: DemoStory, class_id: int, given: Given, skills: dict[str, float]
) -> None:
    assignment_id = assign_exercise(
        story.session,
        _chosen(story, given),
        school_id=story.school_id,
        class_id=class_id,
        teacher_id=story.teacher_id,
        due_week=given.week,
        rng=Random(_SEED + class_id * 100 + given.week),
    )
    if not given.printed:
        return
    print_sheets(story.session, story.school_id, assignment_id)
    sheets = sheets_of_assignment(story.session, assignment_id)
    handed_in = [s for s in sheets if story.rng.random() < given.handed_in]
    if given.shown:
        own = print_own_sheet(story.session, story.school_id, assignment_id)
        _hand_in(story, assignment_id, [own], given, {own.student: 1.0}, 1, {})
    if not handed_in:
        return
    current = given.week == WEEK and given.key is Key.NAMED
    mishaps = {handed_in[1].id: Mishap(hide_code=True), handed_in[2].id: Mishap(cut_off=True)}
    _hand_in(story, assignment_id, handed_in, given, skills, 1, mishaps if current else {})
    sent_back = _review(story, class_id, assignment_id, given)
    redoing = [one.student_id for one in sent_back][: len(sent_back) * 2 // 3]
    if redoing:
        again = print_again(story.session, story.school_id, assignment_id, redoing)
        _hand_in(story, assignment_id, again, given, skills, 2, {})
        _review(story, class_id, assignment_id, given)


def _chosen(story: DemoStory, given: Given) -> Chosen:
    sets = {one.label: one for one in own_sets(story.session, story.school_id)}
    name = given.set_name
    paints = None if name is None else sets.get(name) or builtin_set(name)
    return Chosen(
        kind=given.kind,
        options=kind_of(given.kind).chosen(given.options),
        paints=paints,
        set_ref=paints.name if paints else None,
        medium=given.medium,
        level=given.level,
        key=given.key,
    )


def _hand_in(
    story: DemoStory,
    assignment_id: int,
    sheets: Sequence[SheetRow],
    given: Given,
    skills: dict[str, float],
    attempt: int,
    mishaps: dict[int, Mishap],
) -> None:
    assignment = assignment_of_school(story.session, story.school_id, assignment_id)
    layouts = layouts_of_sheets(story.session, [sheet.id for sheet in sheets])
    pages = drawings(story.session, assignment, sheets)
    exercise = exercise_of(story.session, assignment)
    jobs = []
    for sheet, page in zip(sheets, pages, strict=True):
        hand = hand_of(skills[sheet.student], given.week, attempt, story.rng)
        painted = _painted(story, for_sheet(exercise, sheet.cells), hand, given, attempt)
        jobs.append(
            Job(
                layout=layout_from_json(layouts[sheet.id]),
                pdf=sheets_pdf([page], sheet.code),
                seed=next(story.seeds),
                hand=painted.hand,
                mishap=mishaps.get(sheet.id, painted.mishap),
            )
        )
    batch_id = add_batch(story.session, story.school_id, story.teacher_id)
    received_at = _received(story, given.week, attempt)
    unread = len(jobs) - (_UNREAD if mishaps else 0)
    for place, picture in enumerate(story.pool.map(_take, jobs, chunksize=2)):
        handed_in = hand_in_photo(
            story.session,
            story.files,
            school_id=story.school_id,
            batch_id=batch_id,
            name=f"IMG_{jobs[place].seed}.jpg",
            data=picture,
            received_at=received_at + timedelta(seconds=40 * place),
            read_after_s=0 if place < unread else _UNREAD_WAIT_S,
        )
        if handed_in.photo and place < unread:
            read_photograph(story.session, story.files, handed_in.photo.id)
            story.read += 1
            story.note(story.read)


def _painted(
    story: DemoStory, exercise: Exercise, hand: Hand, given: Given, attempt: int
) -> Painted:
    """Paint an exercise of a set's tubes as its student mixes it, now and then with a mistake."""
    if exercise.paints is None:
        recipes = {cell.id: recipe_of(cell) for cell in exercise.asked.on_paper}
        return Painted(hand=replace(hand, recipes=recipes), mishap=Mishap(), wrong=())
    sitting = Sitting(
        asked=exercise.asked,
        paints=exercise.paints,
        tolerance=usual_tolerance(exercise.asked.kind, given.level),
        rng=story.rng,
        care=_CARE * hand.step_noise / attempt,
    )
    errs = story.rng.random() < _ERRS / attempt
    mistake = list(Mistake)[int(story.rng.integers(len(Mistake)))] if errs else None
    try:
        painted = paint_sheet(sitting, mistake)
    except Refused:
        painted = paint_sheet(sitting, None)  # this exercise has no room for that one
    return replace(painted, hand=replace(painted.hand, ragged_mm=hand.ragged_mm))


def _take(job: Job) -> bytes:
    take = partial(take_picture, preset="easy", size_px=SIZE_PX, press=_PRINTER)
    phone = job.seed % _PHONES
    picture = take(
        job.layout, job.pdf, seed=job.seed, hand=job.hand, mishap=job.mishap, phone=phone
    )
    return picture.jpeg


def _received(story: DemoStory, week: int, attempt: int) -> datetime:
    """Give an afternoon in the week it was due, a week later for a redo, never in the future."""
    monday = monday_of(story.today) - timedelta(weeks=WEEK - week)
    day = min(monday + timedelta(days=3, weeks=attempt - 1), story.today - timedelta(days=1))
    return datetime(day.year, day.month, day.day, 15, 30, tzinfo=UTC)


def _review(story: DemoStory, class_id: int, assignment_id: int, given: Given) -> list[AttemptRow]:
    """Accept what mostly holds, send the rest back; gives what was sent back."""
    waiting = [
        attempt
        for attempt in attempts_of_class(story.session, class_id)
        if attempt.assignment_id == assignment_id and not attempt.review.standing
    ]
    sent_back = []
    for attempt in waiting:
        if story.rng.random() >= given.reviewed:
            continue
        verdicts = tally_from_json(attempt.tally).verdicts
        astray = sum(verdict in (Verdict.DRIFTS, Verdict.OFF) for verdict in verdicts)
        decision = Decision(verb=Verb.ACCEPT)
        if astray > len(verdicts) / 4:
            decision = Decision(verb=Verb.SEND_BACK, sentence=sentence_of(attempt))
            sent_back.append(attempt)
        review_sheet(
            story.session,
            school_id=story.school_id,
            teacher_id=story.teacher_id,
            photograph_id=attempt.photograph_id,
            decision=decision,
        )
    return sent_back
