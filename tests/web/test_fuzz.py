"""Strange requests to every route: each is answered or refused in a sentence, none is a 500.

NOEMA_FUZZ says how many; seeds are the requests' numbers, so that one can be asked again.
"""

import json
import os
import re
from io import BytesIO
from pathlib import Path
from random import Random
from urllib.parse import quote

import pytest

import noema
from tests.trade import found_school

COUNT = int(os.environ.get("NOEMA_FUZZ", "400"))
TEMPLATES = Path(noema.__file__).parent / "web"
NAMES = sorted(
    {
        name
        for path in (*TEMPLATES.rglob("*.html"), *TEMPLATES.rglob("*.py"))
        for name in re.findall(r'name="([a-z_-]{1,30})"', path.read_text(encoding="utf-8"))
    }
    | {"photos", "photo", "roster", "text", "verb", "cell", "sentence", "steps", "hues", "pairs"}
)
WORDS = (
    "", " ", "0", "1", "-1", "3.5", "1e400", "NaN", "2147483648", "9" * 40, "\0", "a\0b", "%00",
    "true", "null", "[]", "{}", "<b>x</b>", "' OR 1=1 --", "../../etc/passwd", "…", "é" * 300,
    "😀", "\u202e", "\ud7ff", "x" * 5000, "red-green", "tint-in", "split-six+black", "colour-wheel",
    "value-scale", "paints", "teacher", "beginner", "accept", "send-back", "overrule", "holds",
    "r1c1", "h1", "c1", "a4", "2026-11-29", "Europe/Berlin", "adult", "apply", "%(name)s", "{0}",
)  # fmt: skip
FILES = (
    b"", b"%PDF-1.7", b"\xff\xd8\xff\xe0", b"\x89PNG\r\n\x1a\n", b"PK\x03\x04" + b"\0" * 40,
    b"name\nAda\n", b"{", b'{"format": "noema-key/1"}', b"\xff\xfe\0\0", b"a,b\n" * 50,
)  # fmt: skip
METHODS = ("GET", "POST", "POST", "POST", "PUT", "DELETE", "HEAD")


@pytest.fixture(scope="module")
def strange(sessions, files):
    """A school of its own: what is sent here changes it."""
    school = found_school(sessions, files)
    return school, school.reviewable()


def address(rng, rule, school, photo):
    own = {
        "class_id": school.class_id, "assignment_id": school.assignment_id, "photograph_id": photo,
        "student_id": school.sheets()[0].student_id,
    }  # fmt: skip

    def value(part):
        kind, _, name = part.group(1).rpartition(":")
        if rng.random() < 0.7 and name in own:
            return str(own[name])
        odd = rng.choice(("0", "1", "2147483647", "2147483648", "99999999999999999999"))
        return odd if kind == "int" else quote(rng.choice(WORDS) or "x", safe="")

    return re.sub(r"<([^>]+)>", value, rule.rule)


def sent(rng):
    fields = {rng.choice(NAMES): rng.choice(WORDS) for _ in range(rng.randrange(6))}
    query = {rng.choice(NAMES): rng.choice(WORDS) for _ in range(rng.randrange(3))}
    how = rng.random()
    if how < 0.5:
        return {"data": fields, "query_string": query}
    if how < 0.75:
        files = {
            rng.choice(NAMES): (BytesIO(rng.choice(FILES)), rng.choice(("a.jpg", "\0", "x" * 300)))
            for _ in range(rng.randrange(1, 3))
        }
        return {"data": {**fields, **files}, "query_string": query}
    if how < 0.9:
        body = rng.choice((json.dumps(fields), "{", "[1]", '"x"', "null", "9" * 5000))
        return {"data": body, "content_type": "application/json"}
    return {
        "data": bytes(rng.randrange(256) for _ in range(200)),
        "content_type": rng.choice(
            ("application/octet-stream", "text/plain", "multipart/form-data")
        ),
        "headers": {"HX-Request": "true", "Referer": rng.choice(WORDS).replace("\0", "")[:50]}
        if rng.random() < 0.5
        else {},
    }


def test_no_request_is_a_500(app, strange):
    school, photo = strange
    # Without a worker it isn't ready, and says so with a status of its own.
    left_alone = ("static", "health.ready")
    rules = [rule for rule in app.url_map.iter_rules() if rule.endpoint not in left_alone]
    people = {"teacher": school.teacher, "student": school.student, "visitor": None}
    clients = {}
    for seed in range(COUNT):
        rng = Random(seed)
        who = rng.choice(("teacher", "teacher", "teacher", "student", "visitor"))
        if who not in clients or rng.random() < 0.1:
            comes_in = people[who]
            clients[who] = app.test_client() if comes_in is None else comes_in(app)
        rule = rng.choice(rules)
        path, method = address(rng, rule, school, photo), rng.choice(METHODS)
        try:
            answer = clients[who].open(path, method=method, **sent(rng))
        except UnicodeEncodeError:  # a header that no client can send
            continue
        assert answer.status_code < 500, (seed, who, method, path, answer.status_code)
