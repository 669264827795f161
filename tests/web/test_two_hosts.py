"""Two hosts of pages share a database and a store: what one begins the other goes on with."""

from dataclasses import replace

import pytest

from noema.actions.read_photograph import read_photograph
from noema.assemble_pages import web_application_of
from noema.core.errors import Refused
from noema.devices.stores_at import files_at
from tests.bucket import new_bucket, object_service
from tests.trade import found_school


@pytest.fixture
def place():
    with object_service() as service:
        yield new_bucket(service)


@pytest.fixture
def two_hosts(place, settings, sessions):
    apart = replace(settings, files=place, mail="127.0.0.1:25")
    hosts = [web_application_of(apart, sessions) for _ in range(2)]
    for host in hosts:
        host.config["WTF_CSRF_ENABLED"] = False
    return hosts


def test_a_photograph_that_begins_on_one_host_comes_whole_on_the_other(
    place, two_hosts, sessions, tmp_path
):
    school = found_school(sessions, files_at(place))
    photo = school.photo_of(school.sheets()[0])
    one, other = (school.student(host) for host in two_hosts)
    size = {"size": str(len(photo)), "name": "a.jpg"}
    begun = one.post(f"/me/exercises/{school.assignment_id}/uploads", data=size)
    url, half = f"/me/uploads/{begun.json['upload']}", len(photo) // 2
    kind = "application/octet-stream"
    assert other.get(url).json["from"] == 0
    one.post(f"{url}?from=0", data=photo[:half], content_type=kind)
    assert other.get(url).json["from"] == half
    done = other.post(f"{url}?from={half}", data=photo[half:], content_type=kind).json["done"]
    number = int(done.rsplit("/", 1)[1])
    with sessions.begin() as session:
        read_photograph(session, school.files, number)
    teacher = school.teacher(two_hosts[0])
    assert teacher.get(f"/photographs/{number}/original").data == photo
    assert teacher.get(f"/photographs/{number}/straight.jpg").data[:2] == b"\xff\xd8"
    assert not list(tmp_path.iterdir())


def test_letters_are_not_laid_beside_photographs_on_a_service(settings, sessions):
    where = replace(settings, files="s3://key:secret@objects.school.example/photographs")
    with pytest.raises(Refused, match="set NOEMA_MAIL to a mail server"):
        web_application_of(where, sessions)
