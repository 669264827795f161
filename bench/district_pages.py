"""Every page of a made-up district: its time on the server, and how the database goes about it.

Run: .venv/bin/python -m bench.district_pages [schools classes students exercises]
"""

import gc
import json
import re
import sys
import time
from collections import defaultdict
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from dataclasses import dataclass
from functools import partial
from http import HTTPStatus
from pathlib import Path
from random import Random

import numpy as np
from flask import Flask
from flask.testing import FlaskClient
from sqlalchemy import Engine, event, text
from werkzeug.routing import Rule

from bench.district import LARGE, PASSWORD, District, email_of, fill_district
from noema.assemble_pages import web_application_of
from noema.core.joining.card import card_words
from noema.settings import Settings
from noema.store.engine import Sessions, bring_up_to_date, open_engine, open_sessions
from tools.cluster import Cluster

ROOT = Path(__file__).parents[1]
SECRET = "only for the bench, and long enough for it"
_SCHOOLS_VISITED, _VISITS = 12, 8  # times each page is asked for in each of these schools
_MEDIAN_MS, _P99_MS = 100.0, 400.0
_ELSEWHERE = ("/log-in", "/join", "/health", "/favicon.ico")  # show nothing of a school

_SOMEBODY = """
SELECT school_class.id AS class_id, assignment.id AS assignment_id, sheet.id AS sheet_id,
       sheet.student_id, photograph.id AS photograph_id, photograph.batch_id, school_class.join_code
FROM school JOIN school_class ON school_class.school_id = school.id
JOIN assignment ON assignment.class_id = school_class.id
JOIN sheet ON sheet.assignment_id = assignment.id
JOIN photograph ON photograph.sheet_id = sheet.id
WHERE school.name = :school ORDER BY md5(sheet.id::text) LIMIT :count
"""
_SIZES = """
SELECT relname, pg_total_relation_size(oid) FROM pg_class
WHERE relkind = 'r' AND relnamespace = 'public'::regnamespace ORDER BY 2 DESC LIMIT 8
"""
_LARGE_TABLES = "SELECT relname FROM pg_class WHERE relkind = 'r' AND reltuples >= :rows"


@dataclass(frozen=True, kw_only=True)
class Visit:
    """One page asked for once."""

    rule: str
    is_page: bool  # else a document to keep, such as a PDF
    took_ms: float
    queries: int


@dataclass(frozen=True, kw_only=True)
class Asked:
    """A statement the pages sent to the database."""

    rule: str
    statement: str
    parameters: object


Statements = dict[tuple[str, int], Asked]
"""By page and place in it."""


def visited(
    app: Flask, sessions: Sessions, schools: list[int], visits: int
) -> tuple[list[Visit], Statements]:
    """Ask for every page of some schools; gives the visits, and each page's statements once."""
    gc.freeze()  # as the application does when it starts
    seen: list[Visit] = []
    documents = set[str]()  # which take long and are asked for once
    statements: Statements = {}
    for school in schools:
        places = _places(sessions, school, visits)
        teacher = app.test_client()
        teacher.post("/log-in", data={"email": email_of(school), "password": PASSWORD})
        for place in places:
            student = _student(app, place)
            for rule in _rules(app):
                if rule.rule in documents:
                    continue
                client = student if rule.rule.startswith("/me") else teacher
                with _statements() as asked:
                    visit = _visit(client, rule, place, asked)
                if visit is not None:
                    documents |= set() if visit.is_page else {rule.rule}
                    seen.append(visit)
                    for place_in_page, one in enumerate(asked):
                        statements.setdefault((rule.rule, place_in_page), one)
    return seen, statements


def _places(sessions: Sessions, school: int, count: int) -> list[Mapping[str, object]]:
    with sessions() as session:
        rows = session.execute(text(_SOMEBODY), {"school": f"School {school}", "count": count})
        return [{**row, "set_ref": "split-six+black", "paper": "a4"} for row in rows.mappings()]


def _student(app: Flask, place: Mapping[str, object]) -> FlaskClient:
    words = " ".join(card_words(SECRET, int(str(place["student_id"])), 1))
    client = app.test_client()
    client.post("/join", data={"code": place["join_code"], "card": words})
    return client


def _rules(app: Flask) -> list[Rule]:
    return [
        rule
        for rule in app.url_map.iter_rules()
        if "GET" in (rule.methods or ()) and not rule.rule.startswith(("/static", *_ELSEWHERE))
    ]


def _visit(
    client: FlaskClient, rule: Rule, place: Mapping[str, object], asked: list[Asked]
) -> Visit | None:
    """Ask for one page; None where it isn't there, as pictures that were never taken."""
    if not rule.arguments <= set(place):
        return None
    path = rule.rule
    for name in rule.arguments:
        path = re.sub(rf"<(int:)?{name}>", str(place[name]), path)
    begun = time.perf_counter()
    answer = client.get(path)
    answer.get_data()
    took = time.perf_counter() - begun
    asked[:] = [
        Asked(rule=rule.rule, statement=one.statement, parameters=one.parameters) for one in asked
    ]
    if answer.status_code >= HTTPStatus.INTERNAL_SERVER_ERROR:
        sys.exit(f"{path} answered {answer.status_code}")
    if answer.status_code != HTTPStatus.OK:
        return None
    return Visit(
        rule=rule.rule,
        is_page=answer.mimetype == "text/html",
        took_ms=took * 1000.0,
        queries=len(asked),
    )


@contextmanager
def _statements() -> Iterator[list[Asked]]:
    asked: list[Asked] = []

    def note(
        _connection: object, _cursor: object, statement: str, given: object, *_: object
    ) -> None:
        asked.append(Asked(rule="", statement=statement, parameters=given))

    event.listen(Engine, "before_cursor_execute", note)
    try:
        yield asked
    finally:
        event.remove(Engine, "before_cursor_execute", note)


def scans(
    engine: Engine, statements: Statements, rows: int, *, where_none_else: bool = False
) -> list[str]:
    """Which statements read a table of so many rows from end to end? A line each.

    Small tables are read so whatever indexes there are: of those it may be asked whether there is
    no other way.
    """
    found = []
    with engine.connect() as connection:
        if where_none_else:
            connection.exec_driver_sql("SET LOCAL enable_seqscan = off")
        large = set(connection.scalars(text(_LARGE_TABLES), {"rows": rows}))
        for one in statements.values():
            if not one.statement.lstrip().upper().startswith(("SELECT", "WITH")):
                continue
            explained = connection.exec_driver_sql(
                f"EXPLAIN (FORMAT JSON) {one.statement}", one.parameters
            ).scalar_one()
            plan = explained if isinstance(explained, list) else json.loads(explained)
            read = set(_read_whole(plan[0]["Plan"], by_index=not where_none_else)) & large
            found += [f"{one.rule} reads all of {name}: {one.statement}" for name in sorted(read)]
    return found


def _read_whole(node: Mapping[str, object], *, by_index: bool) -> Iterator[str]:
    kind = str(node["Node Type"])
    unled = by_index and "Scan" in kind and "Index" in kind and "Index Cond" not in node
    if (kind == "Seq Scan" or unled) and "Relation Name" in node:
        yield str(node["Relation Name"])
    below = node.get("Plans", [])
    for part in below if isinstance(below, list) else []:
        yield from _read_whole(part, by_index=by_index)


def _print(visits: list[Visit]) -> None:
    by_rule = defaultdict(list)
    for one in visits:
        by_rule[(not one.is_page, one.rule)].append(one)
    for (is_document, rule), some in sorted(by_rule.items()):
        took = np.array([one.took_ms for one in some])
        what = "document" if is_document else "page"
        print(
            f"{what} {rule}: median {np.median(took) / _MEDIAN_MS:.2f}, p99"
            f" {np.percentile(took, 99) / _P99_MS:.2f}, {max(one.queries for one in some)} queries,"
            f" {len(some)} visits"
        )
    pages = [some for (is_document, _), some in by_rule.items() if not is_document]
    medians = [np.median([one.took_ms for one in some]) / _MEDIAN_MS for some in pages]
    slowest = [np.percentile([one.took_ms for one in some], 99) / _P99_MS for some in pages]
    print(
        f"{len(pages)} pages: the slowest page's median / 100 ms {max(medians):.2f} (at most 1),"
        f" its p99 / 400 ms {max(slowest):.2f} (at most 1)"
    )


def main() -> None:
    """Make the district where it isn't there yet, visit it and say what was seen."""
    given = tuple(int(word) for word in sys.argv[1:])
    names = ("schools", "classes", "students", "exercises")
    district = District(**dict(zip(names, given, strict=True))) if given else LARGE
    cluster = Cluster(ROOT / ".local/district/postgres")
    cluster.start()
    name = "district_" + "_".join(str(getattr(district, one)) for one in names)
    engine = open_engine(cluster.database(name))
    bring_up_to_date(engine)
    sessions = open_sessions(engine)
    with sessions() as session:
        is_filled = session.scalar(text("SELECT EXISTS (SELECT FROM school)"))
    if not is_filled:
        begun = time.perf_counter()
        fill_district(sessions, district)
        print(f"made in {(time.perf_counter() - begun) / 60:.1f} minutes")
    settings = Settings(
        database_url=cluster.url(name),
        files=str(ROOT / ".local/district/files"),
        secret_key=SECRET,
        slows_guessing=0,
    )
    app = web_application_of(settings, sessions)
    app.config["WTF_CSRF_ENABLED"] = False
    count = min(_SCHOOLS_VISITED, district.schools) - 1
    others = Random(1).sample(range(1, district.schools), count)
    look = partial(visited, app, sessions)
    look([0], 1)  # so that nothing is timed that is loaded once
    visits, statements = look([0, *others], _VISITS)
    _print(visits)
    for line in scans(engine, statements, 10_000):
        print(line[:600])
    with engine.connect() as connection:
        for table, size in connection.execute(text(_SIZES)):
            print(f"{table}: {size / 1e9:.2f} GB")
    engine.dispose()
    cluster.stop()


if __name__ == "__main__":
    main()
