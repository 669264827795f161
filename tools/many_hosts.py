"""Runs Noema on hosts of its own, takes one after another away while photographs are handed in.

Two hosts of pages, three of workers, a database, a store of photographs on a service that speaks
S3's protocol, and a proxy; each a network namespace on this machine. The store keeps objects in
memory, so it is cut off and stopped, not emptied. Needs root and Debian's iproute2.

Run: .venv/bin/python -m tools.many_hosts [minutes]
"""

import os
import random
import secrets
import shutil
import subprocess
import sys
import tempfile
import time
from collections import Counter
from collections.abc import Callable, Iterator, Mapping
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path

import requests
from sqlalchemy import text

from noema.devices.stores_at import files_at
from noema.store.engine import Sessions, bring_up_to_date, open_engine, open_sessions
from tools.cluster import SERVER_USER
from tools.host import GATEWAY, Host, Program, bridge_down, bridge_up
from tools.proxy import PAGES, command, program
from tools.small_school import EMAIL, PASSWORD, photographs, small_school
from tools.waiting import until

MINUTES = 20.0
_ROOT = Path(__file__).parents[1]
_PYTHON = str(_ROOT / ".venv/bin/python")
_PAGES_PORT, _DATABASE_PORT, _STORE_PORT, _MOTO_PORT = 8001, 5432, 9000, 9001
_AWAY_S, _BETWEEN_S, _SETTLES_S, _HANDS, _PACE_S = 15.0, 15.0, 600.0, 4, 2.6
_ASK_S = 20.0  # how long a sender waits for an answer before sending again
_SLOW_S = 5.0

_SITE = """
  upstream noema_pages {{
    {servers}
  }}
  server {{
    listen {address}:80;
    include "{pages}";
  }}
"""
_STORE_SITE = """
  server {{
    listen {address}:{port};
    client_max_body_size 0;
    location / {{
      if (-f "{flag}") {{ return 503; }}
      proxy_pass http://127.0.0.1:{moto};
      proxy_set_header Host $http_host;
      proxy_request_buffering off;
    }}
  }}
"""


@dataclass(frozen=True, kw_only=True)
class Hosts:
    """All hosts, where to ask, and what tells the store to answer 503."""

    by_name: Mapping[str, Host]
    database_url: str
    files: str
    flag: Path

    @property
    def address(self) -> str:
        """Give where people reach the pages."""
        return f"http://{self.by_name['proxy'].address}"


def laid_out(folder: Path) -> Hosts:
    """Lay out the hosts; none runs yet."""
    password, flag = secrets.token_hex(8), folder / "unwell"
    where = {
        name: f"{GATEWAY[:-2]}.{number}"
        for number, name in enumerate(
            ("db", "store", "web1", "web2", "read1", "read2", "read3", "proxy"), start=11
        )
    }
    database_url = f"postgresql://noema:{password}@{where['db']}:{_DATABASE_PORT}/noema"
    files = f"s3+http://noema:{secrets.token_hex(8)}@{where['store']}:{_STORE_PORT}/photographs"
    settings = {
        "NOEMA_DATABASE_URL": database_url,
        "NOEMA_FILES": files,
        "NOEMA_SECRET_KEY": secrets.token_hex(24),
        "NOEMA_MAIL": "127.0.0.1:25",
        "NOEMA_PROXIES": "1",
        "NOEMA_READING_AT_ONCE": "1",
        "OMP_NUM_THREADS": "1",
    }
    pages = (
        f"{_ROOT}/.venv/bin/gunicorn", "--bind", f"0.0.0.0:{_PAGES_PORT}", "--workers", "2",
        "--threads", "40", "--timeout", "120", "'noema.assemble_pages:web_application()'",
    )  # fmt: skip
    servers = "\n    ".join(
        f"server {where[name]}:{_PAGES_PORT} max_fails=1 fail_timeout=5s;"
        for name in ("web1", "web2")
    )
    front = _SITE.format(servers=servers, address=where["proxy"], pages=PAGES)
    store = _STORE_SITE.format(address=where["store"], port=_STORE_PORT, flag=flag, moto=_MOTO_PORT)
    moto = (_PYTHON, "-m", "moto.server", "-H", "127.0.0.1", "-p", str(_MOTO_PORT))
    runs = {
        "db": [Program(words=_database(folder / "postgres", password))],
        "store": [Program(words=moto), Program(words=command(folder / "store", store))],
        "proxy": [Program(words=command(folder / "proxy", front))],
        **{name: [Program(words=pages, environment=settings)] for name in ("web1", "web2")},
        **{
            f"read{n}": [Program(words=(_PYTHON, "-m", "noema.assemble"), environment=settings)]
            for n in (1, 2, 3)
        },
    }
    hosts = {
        name: Host(
            name=name,
            number=int(address.rpartition(".")[2]),
            programs=runs[name],
            log=folder / f"{name}.log",
        )
        for name, address in where.items()
    }
    return Hosts(by_name=hosts, database_url=database_url, files=files, flag=flag)


def _database(folder: Path, password: str) -> tuple[str, ...]:
    """Make a cluster that survives a power cut; gives what runs it."""
    binaries = max(Path("/usr/lib/postgresql").glob("*/bin"))
    secret = folder.with_suffix(".secret")
    secret.write_text(password, encoding="utf-8")
    folder.mkdir()
    for place in (folder, secret):
        shutil.chown(place, SERVER_USER)
    as_server = ("runuser", "-u", SERVER_USER, "--")
    subprocess.run(
        [*as_server, f"{binaries}/initdb", "-D", str(folder), "-U", "noema", "-E", "UTF8",
         "--locale=C.UTF-8", "-A", "scram-sha-256", f"--pwfile={secret}"],
        check=True, stdout=subprocess.DEVNULL,
    )  # fmt: skip
    with (folder / "pg_hba.conf").open("a", encoding="utf-8") as rules:
        rules.write(f"host all all {GATEWAY[:-2]}.0/24 scram-sha-256\n")
    return (
        *as_server, f"{binaries}/postgres", "-D", str(folder), "-p", str(_DATABASE_PORT),
        "-c", "listen_addresses='*'", "-c", "unix_socket_directories=''",
        "-c", "max_connections=300",
    )  # fmt: skip


def begun(hosts: Hosts) -> Sessions:
    """Start everything on an empty database; gives its sessions."""
    bridge_up()
    for host in hosts.by_name.values():
        host.plug_in()
    for name in ("db", "store"):
        hosts.by_name[name].start()
    bucket = f"http://{hosts.by_name['store'].address}:{_STORE_PORT}/photographs"
    until(lambda: requests.put(bucket, timeout=5).ok)
    owner = open_engine(f"{hosts.database_url.rpartition('/')[0]}/postgres")
    until(lambda: _made(owner))
    engine = open_engine(hosts.database_url)
    bring_up_to_date(engine)
    for name, host in hosts.by_name.items():
        if name not in ("db", "store"):
            host.start()
    return open_sessions(engine)


def _made(owner) -> bool:  # type: ignore[no-untyped-def]
    with owner.execution_options(isolation_level="AUTOCOMMIT").connect() as connection:
        connection.execute(text("CREATE DATABASE noema"))
    return True


class Teacher:
    """A teacher's browser, which sends again what wasn't taken."""

    def __init__(self, address: str) -> None:
        self._address = address
        self._browser = requests.Session()
        self._browser.get(f"{address}/log-in", timeout=60).raise_for_status()
        page = self._browser.get(f"{address}/log-in", timeout=60).text
        form = {"email": EMAIL, "password": PASSWORD, "csrf_token": _token(page)}
        self._browser.post(f"{address}/log-in", data=form, timeout=60).raise_for_status()
        self._token = _token(self._browser.get(f"{address}/photograph", timeout=60).text)

    def page(self) -> tuple[str, float]:
        """Look at a page; gives what came and the seconds it took."""
        begins = time.monotonic()
        try:
            said = str(self._browser.get(f"{self._address}/photograph", timeout=_ASK_S).status_code)
        except requests.RequestException:
            said = "no answer"
        return said, time.monotonic() - begins

    def pieces(self, path: str) -> Iterator[bytes]:
        """Fetch something large piece by piece."""
        with self._browser.get(f"{self._address}{path}", stream=True, timeout=600) as answer:
            answer.raise_for_status()
            yield from answer.iter_content(2**20)

    def hand_in(self, name: str, data: bytes, said: Counter[str]) -> None:
        """Hand one photograph in until it is taken; what the sender saw is counted."""
        headers = {"X-CSRFToken": self._token, "Referer": self._address}
        while True:
            try:
                answer = self._browser.post(
                    f"{self._address}/photograph",
                    files={"photos": (name, data)},
                    headers=headers,
                    timeout=_ASK_S,
                )
            except requests.RequestException:
                said["no answer"] += 1
            else:
                if answer.ok:
                    said["taken"] += 1
                    return
                said[str(answer.status_code)] += 1
            time.sleep(2.0)


def _token(page: str) -> str:
    return page.split('name="csrf_token" value="', 1)[1].split('"', 1)[0]


def faults(hosts: Hosts) -> dict[str, tuple[Callable[[], None], Callable[[], None]]]:
    """Give every fault: how it begins and how it ends."""

    def lost(host: Host) -> tuple[Callable[[], None], Callable[[], None]]:
        def back() -> None:
            host.join()
            host.start()

        return host.lose_power, back

    killed = {f"{name} lost": lost(host) for name, host in hosts.by_name.items() if name != "store"}
    store, db = hosts.by_name["store"], hosts.by_name["db"]
    return killed | {
        "store cut off": (store.cut, store.join),
        "store answers 503": (hosts.flag.touch, hosts.flag.unlink),
        "db restarted": (db.kill, db.start),
    }


def _break(hosts: Hosts, over: float, now: dict[str, str]) -> Counter[str]:
    """Let one fault follow another, each for some seconds; what holds now stands in `now`."""
    every, broken = faults(hosts), Counter[str]()
    names = list(every)
    random.Random(4).shuffle(names)
    while time.monotonic() < over - _AWAY_S - _BETWEEN_S:
        name = names[sum(broken.values()) % len(names)]
        begin, end = every[name]
        now["fault"] = name
        begin()
        time.sleep(_AWAY_S)
        end()
        broken[name] += 1
        time.sleep(_BETWEEN_S)
        now["fault"] = "none"
    return broken


def _look(teacher: Teacher, over: float, now: dict[str, str]) -> dict[str, list[tuple[str, float]]]:
    """Look at a page every second; gives what came, by the fault that held or was just over."""
    seen: dict[str, list[tuple[str, float]]] = {}
    while time.monotonic() < over:
        fault = now["fault"]
        seen.setdefault(fault, []).append(teacher.page())
        time.sleep(1.0)
    return seen


def _hand_in(
    teacher: Teacher, given: Iterator[bytes], over: float, said: Counter[str]
) -> list[str]:
    """Hand photographs in at a steady pace; gives their names."""
    names: list[str] = []
    with ThreadPoolExecutor(_HANDS) as hands:
        waiting = []
        while time.monotonic() < over:
            names.append(f"hosts-{len(names)}.jpg")
            waiting.append(hands.submit(teacher.hand_in, names[-1], next(given), said))
            time.sleep(_PACE_S)
        for one in waiting:
            one.result()
    return names


def counted(sessions: Sessions, files: str, names: list[str]) -> None:
    """Say what was lost, doubled or is stuck, once all has settled."""
    question = text(
        "SELECT p.original_name, p.state, p.sha256, (SELECT count(*) FROM reading AS r"
        " WHERE r.photograph_id = p.id AND r.basis NOT LIKE 'together:%') AS readings"
        " FROM photograph AS p WHERE p.original_name = ANY(:names)"
    )
    settled = time.monotonic() + _SETTLES_S
    while True:
        with sessions() as session:
            rows = session.execute(question, {"names": names}).all()
        stuck = sum(row.state == "reading" for row in rows)
        if not stuck or time.monotonic() > settled:
            break
        time.sleep(2.0)
    times = Counter(row.original_name for row in rows)
    there = files_at(files).among({row.sha256 for row in rows})
    lost = sum(name not in times for name in names) + sum(row.sha256 not in there for row in rows)
    doubled = sum(count > 1 for count in times.values()) + sum(row.readings > 1 for row in rows)
    print(f"of {len(names)} photographs: {lost} lost, {doubled} doubled, {stuck} stuck")
    print(f"states: {dict(Counter(row.state for row in rows))}")


def _told(seen: Mapping[str, list[tuple[str, float]]]) -> None:
    for fault, answers in sorted(seen.items()):
        others = Counter(said for said, _ in answers if said != "200")
        slow = sum(took > _SLOW_S for _, took in answers)
        print(
            f"  {fault}: {len(answers)} looks at a page, not answered well {dict(others)}, "
            f"over {_SLOW_S:g} s {slow}, the longest {max(took for _, took in answers):.1f} s"
        )


def main() -> None:
    """Start the hosts, break them, hand in, wait until all has settled, then count."""
    if os.geteuid() != 0 or program() is None:
        sys.exit("many_hosts: run it as root, after `make test` has fetched nginx.")
    minutes = float(sys.argv[1]) if sys.argv[1:] else MINUTES
    folder = Path(tempfile.mkdtemp(prefix="noema-hosts-"))
    folder.chmod(0o755)
    hosts = laid_out(folder)
    try:
        sessions = begun(hosts)
        given = photographs(small_school(sessions))
        next(given)  # they are taken now, before the clock runs
        until(lambda: requests.get(f"{hosts.address}/health/ready", timeout=5).ok)
        teacher, said, now = Teacher(hosts.address), Counter[str](), {"fault": "none"}
        over = time.monotonic() + 60.0 * minutes
        with ThreadPoolExecutor(2) as pool:
            breaking = pool.submit(_break, hosts, over, now)
            looking = pool.submit(_look, Teacher(hosts.address), over, now)
            names = _hand_in(teacher, given, over, said)
            print(f"{minutes:g} minutes; faults: {dict(breaking.result())}")
            print(f"senders saw: {dict(said)}")
            _told(looking.result())
        counted(sessions, hosts.files, names)
    finally:
        for host in hosts.by_name.values():
            host.remove()
        bridge_down()
        print(f"what they said lies in {folder}")


if __name__ == "__main__":
    main()
