"""The road over HTTPS, through nginx and both services as `deploy/` starts them."""

import os
import re
import shlex
import subprocess
import sys
import time
from configparser import RawConfigParser
from pathlib import Path
from urllib.parse import urlsplit

import pytest
import trustme
import urllib3
from playwright.sync_api import expect, sync_playwright

from noema.devices.file_store import LocalFiles
from noema.stand_ins import identity_service
from noema.store.engine import open_engine, open_sessions
from tests.road.browser import CHROMIUM, FLAGS
from tests.road.steps import (
    assign_six_steps,
    hand_in,
    make_a_class,
    newest,
    print_for_all,
    review_by_keyboard,
)
from tests.trade import PASSWORD, School
from tools.local import any_port
from tools.proxy import command

DEPLOY = Path(__file__).parents[2] / "deploy"
PROGRAMS = f"{Path(sys.executable).parent}/"
HOST, WORD, EMAIL = "localhost", "umber otter", "ines@saltmarsh.example"
TOKEN = "only for tests"
SOON_S = 60


def in_environment(chosen):
    """What a service finds set: the file that ships, with what an administrator fills in."""
    lines = (DEPLOY / "noema.env").read_text(encoding="utf-8").splitlines()
    shipped = dict(line.split("=", 1) for line in lines if line and not line.startswith("#"))
    assert {name for name in chosen if "OIDC" not in name} <= set(shipped)
    return {"PATH": os.environ["PATH"], **shipped, **chosen}


def unit(name):
    """A systemd unit's [Service], as this machine can run it: other places, the same words."""
    read = RawConfigParser(strict=False)
    read.optionxform = str
    read.read(DEPLOY / name, encoding="utf-8")
    service = dict(read["Service"])
    assert service["User"] == "noema"
    started = {
        key: shlex.split(words.replace("/opt/noema/.venv/bin/", PROGRAMS))
        for key, words in service.items()
        if key.startswith("ExecStart")
    }
    return started, service.get("Environment", "")


def site(port, pages_port, certificates):
    """The site as it ships, on a port of this machine."""
    text = (DEPLOY / "nginx/noema.conf").read_text(encoding="utf-8")
    text = re.sub(r"^ *listen \[::\].*\n", "", text, flags=re.MULTILINE)
    for shipped, here in (
        ("listen 80;", f"listen 127.0.0.1:{any_port()};"),
        ("listen 443 ssl", f"listen 127.0.0.1:{port} ssl"),
        ("127.0.0.1:8001", f"127.0.0.1:{pages_port}"),
        ("noema.school.example", HOST),
        ("/etc/noema/tls", str(certificates)),
        ("/opt/noema/deploy", str(DEPLOY)),
    ):
        assert shipped in text
        text = text.replace(shipped, here)
    return text


@pytest.fixture
def deployed(empty_url, tmp_path):
    """Starts all of it; gives the address, the environment and the authority's certificate."""
    port, pages_port, service_port = any_port(), any_port(), any_port()
    authority = trustme.CA()
    certificate = authority.issue_cert(HOST)
    certificate.cert_chain_pems[0].write_to_path(tmp_path / "certificate.pem")
    certificate.private_key_pem.write_to_path(tmp_path / "key.pem")
    authority.cert_pem.write_to_path(tmp_path / "authority.pem")
    environment = in_environment(
        {
            "NOEMA_DATABASE_URL": empty_url,
            "NOEMA_FILES": str(tmp_path / "files"),
            "NOEMA_BACKUPS": str(tmp_path / "backups"),
            "NOEMA_ADDRESS": f"https://{HOST}:{port}",
            "NOEMA_SECRET_KEY": "s" * 48,
            "NOEMA_CARD_KEY": "c" * 48,
            "NOEMA_SETUP_WORD": WORD,
            "NOEMA_METRICS_TOKEN": TOKEN,
            "NOEMA_OIDC_ISSUER": f"http://127.0.0.1:{service_port}",
            "NOEMA_OIDC_CLIENT": identity_service.CLIENT,
            "NOEMA_OIDC_SECRET": identity_service.SECRET,
        }
    )
    (web, counts_in), (worker, _) = unit("noema-web.service"), unit("noema-worker.service")
    counted = tmp_path / "counted"
    counted.mkdir()
    variable, _, folder = counts_in.partition("=")
    assert folder == "/run/noema-web"
    assert "127.0.0.1:8001" in web["ExecStart"]
    subprocess.run(web["ExecStartPre"], env=environment, cwd=tmp_path, check=True)
    pages = [f"127.0.0.1:{pages_port}" if "8001" in word else word for word in web["ExecStart"]]
    people = {"IDENTITY_PEOPLE": f"{EMAIL}=Ines Marlow"}
    logs = (tmp_path / "log").open("w", encoding="utf-8")
    started = [
        subprocess.Popen(words, env=more, cwd=tmp_path, stdout=logs, stderr=logs)
        for words, more in (
            (pages, {**environment, variable: str(counted)}),
            (worker["ExecStart"], environment),
            (command(tmp_path / "nginx", site(port, pages_port, tmp_path)), environment),
            (
                [sys.executable, "-m", "noema.stand_ins.identity_service", str(service_port)],
                {**environment, **people},
            ),
        )
    ]
    yield environment, tmp_path
    for process in started:
        process.terminate()
    for process in started:
        process.wait(SOON_S)
    logs.close()


def watching(environment, folder):
    """What a program that watches asks by, over HTTPS."""
    address = urlsplit(environment["NOEMA_ADDRESS"])
    return urllib3.HTTPSConnectionPool(
        "127.0.0.1",
        address.port,
        server_hostname=HOST,
        assert_hostname=HOST,
        ca_certs=str(folder / "authority.pem"),
        headers={"Host": address.netloc},
        retries=False,
    )


def ready(asking, folder):
    """Wait until everything is up."""
    until = time.monotonic() + SOON_S
    while True:
        try:
            answer = asking.request("GET", "/health/ready")
        except urllib3.exceptions.NewConnectionError:
            pass
        else:
            if answer.status == 200:
                return answer
        assert time.monotonic() < until, (folder / "log").read_text(encoding="utf-8")[-3000:]
        time.sleep(0.2)


def asked_before(asking):
    """How often figures were asked for, as whichever process answers gives it."""
    token = {"Authorization": f"Bearer {TOKEN}", "Host": asking.headers["Host"]}
    answer = asking.request("GET", "/metrics", headers=token)
    said = answer.data.decode()
    found = re.search(r'requests_total\{page="health\.metrics",status="2xx"\} (\S+)', said)
    return float(found.group(1)) if found else 0.0


def found_a_school(page):
    page.goto("/")
    page.get_by_label("School").fill("Saltmarsh Road School")
    page.get_by_label("Time zone").fill("Europe/London")
    page.get_by_label("Your name").fill("Ines Marlow")
    page.get_by_label("E-mail").fill(EMAIL)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_label("Setup word").fill(WORD)
    page.get_by_role("button", name="Begin").click()
    expect(page.get_by_role("button", name="Log out")).to_be_visible()


def sign_in_by_the_school_s_service(page):
    page.get_by_role("button", name="Log out").click()
    page.get_by_role("link", name="Sign in with").click()
    page.get_by_role("link", name="Ines Marlow").click()
    expect(page.get_by_role("heading", name="What waits")).to_be_visible()


def test_the_whole_road_over_https(deployed):
    environment, folder = deployed
    asking = watching(environment, folder)
    answer = ready(asking, folder)
    assert "max-age" in answer.headers["Strict-Transport-Security"]
    engine = open_engine(environment["NOEMA_DATABASE_URL"])
    school = School(
        sessions=open_sessions(engine),
        files=LocalFiles(folder / "files"),
        id=1,
        teacher_id=1,
        email=EMAIL,
        colleague_email="",
        class_id=0,
        assignment_id=0,
    )
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=FLAGS)
        page = browser.new_context(
            base_url=environment["NOEMA_ADDRESS"],
            ignore_https_errors=True,
            viewport={"width": 1280, "height": 800},
        ).new_page()
        found_a_school(page)
        sign_in_by_the_school_s_service(page)
        make_a_class(page)
        assign_six_steps(page)
        print_for_all(page)
        hand_in(page, newest(school))
        review_by_keyboard(page)
        cookies = page.context.cookies(environment["NOEMA_ADDRESS"])
        assert cookies
        assert all(cookie["secure"] and cookie["httpOnly"] for cookie in cookies)
        browser.close()
    assert [asked_before(asking) for _ in range(12)] == list(range(12))
    asking.close()
    engine.dispose()
