"""Starts and stops Noema on this machine: the project's own PostgreSQL, the pages and the worker.

Everything it makes lies in .local, or in .school where it is a school's own; git ignores both.
What it starts it stops, by process id.
"""

import os
import secrets
import signal
import socket
import subprocess
import sys
import time
from pathlib import Path
from urllib.request import urlopen

from noema.stand_ins.identity_service import CLIENT
from noema.stand_ins.identity_service import SECRET as IDENTITY_SECRET
from noema.stand_ins.saltmarsh import PASSWORD, TEACHERS
from tools.cluster import CantStart, Cluster

ROOT = Path(__file__).parents[1]
DEMO, OWN = ROOT / ".local", ROOT / ".school"
LOCAL = ROOT / os.environ.get("NOEMA_HOME", DEMO.name)
PID, PORT, SECRET, LOG = (LOCAL / name for name in ("pid", "port", "secret", "noema.log"))
REST, REST_PID = LOCAL / "demo.log", LOCAL / "demo.pid"  # of what is told beside

_FIRST_PORT = 8000
_WAIT_S = 30.0


def demo() -> None:
    """Start everything with the demo school in it, and say where it is."""
    _make_folder()
    cluster = Cluster(LOCAL / "postgres")
    cluster.start()
    environment = _environment(cluster.database("noema"))
    fresh = _is_up() and _is_current()
    if not fresh:
        _stop_runner()
    _begin(environment)
    if not fresh:
        _start_runner(environment)
    print(f"\nNoema is at {address()}\n")
    for email, name in TEACHERS:
        print(f"  {name}: {email}, password {PASSWORD}")
    _go_on(environment)
    print("\n'make stop' stops it; what was done stays.")


def start() -> None:
    """Start everything without any school in it, and say where to found one."""
    _make_folder()
    cluster = Cluster(LOCAL / "postgres")
    cluster.start()
    environment = _environment(cluster.database("noema"))
    migrated = subprocess.run([ROOT / ".venv/bin/noema", "migrate"], env=environment, check=False)
    if migrated.returncode != 0:
        raise CantStart("The database couldn't be brought up to date: the line above says why.")
    if not (_is_up() and _is_current()):
        _stop_runner()
        _start_runner(environment)
    print(f"\nNoema is at {address()}\n\n'make stop' stops it; what was done stays.")


def noema() -> None:
    """Run the `noema` command on this machine's database: python -m tools.local noema school …"""
    _make_folder()
    cluster = Cluster(LOCAL / "postgres")
    cluster.start()
    command = [ROOT / ".venv/bin/noema", *sys.argv[2:]]
    environment = _environment(cluster.database("noema"))
    sys.exit(subprocess.run(command, env=environment, check=False).returncode)


def stop() -> None:
    """Stop all that was started."""
    if _runs(REST_PID, b"demo"):
        os.killpg(int(REST_PID.read_text(encoding="utf-8")), signal.SIGTERM)
    _stop_runner()
    Cluster(LOCAL / "postgres").stop()
    print("Noema is stopped.")


def _make_folder() -> None:
    try:
        LOCAL.mkdir(exist_ok=True)
        if not SECRET.exists():
            SECRET.touch(mode=0o600)
            SECRET.write_text(secrets.token_urlsafe(48), encoding="utf-8")
    except OSError as wrong:
        raise CantStart(
            f"{LOCAL} can't be written ({wrong.strerror}): give yourself the permission or free "
            "some disk space."
        ) from wrong


def _environment(database_url: str) -> dict[str, str]:
    return {
        **os.environ,
        "NOEMA_DATABASE_URL": database_url,
        "NOEMA_FILES": str(LOCAL / "files"),
        "NOEMA_SECRET_KEY": SECRET.read_text(encoding="utf-8"),
        "NOEMA_METER": "stand-in",
    }


def _begin(environment: dict[str, str]) -> None:
    """Tell the demo's story as far as one class; it says how students come in."""
    print("Looking at the demo data (the first time a class is painted and read) …", flush=True)
    begun = subprocess.run(
        [ROOT / ".venv/bin/noema", "demo", "--begin"], env=environment, check=False
    )
    if begun.returncode != 0:
        raise CantStart("The demo data couldn't be made: the line above says why.")


def wait() -> None:
    """Wait until the whole demo is told."""
    while _runs(REST_PID, b"demo"):
        time.sleep(1.0)


def _go_on(environment: dict[str, str]) -> None:
    """Have what is left told beside, while it is used; Today says how far it is."""
    if _runs(REST_PID, b"demo"):
        return
    with REST.open("ab") as log:
        rest = subprocess.Popen(
            [ROOT / ".venv/bin/noema", "demo"],
            env=environment,
            stdout=log,
            stderr=log,
            start_new_session=True,
        )
    REST_PID.write_text(str(rest.pid), encoding="utf-8")


def _start_runner(environment: dict[str, str]) -> None:
    port = _free_port()
    PORT.write_text(str(port), encoding="utf-8")
    honcho = [ROOT / ".venv/bin/honcho", "start", "--no-colour"]
    runner = subprocess.Popen(
        [sys.executable, "-m", "tools.keep_log", LOG, *honcho],
        cwd=ROOT,
        env={
            **environment,
            "PORT": str(port),
            "PROXY_FOLDER": str(LOCAL / "nginx"),
            **_identity_service(),
            "PAGES_PORT": str(any_port()),
            "NOEMA_PROXIES": "1",
        },
        stdin=subprocess.DEVNULL,
        stdout=subprocess.DEVNULL,
        stderr=subprocess.DEVNULL,
        start_new_session=True,
    )
    PID.write_text(str(runner.pid), encoding="utf-8")
    until = time.monotonic() + _WAIT_S
    while not _is_up():
        if runner.poll() is not None or time.monotonic() > until:
            raise CantStart(f"Noema didn't come up: the last lines of {LOG} say why.")
        time.sleep(0.1)


def _identity_service() -> dict[str, str]:
    """Let the demo's teachers sign in with a stand-in of a school's own service too."""
    port = str(any_port())
    return {
        "IDENTITY_PORT": port,
        "IDENTITY_PEOPLE": ";".join(f"{email}={name}" for email, name in TEACHERS),
        "NOEMA_OIDC_ISSUER": f"http://127.0.0.1:{port}",
        "NOEMA_OIDC_CLIENT": CLIENT,
        "NOEMA_OIDC_SECRET": IDENTITY_SECRET,
        "NOEMA_OIDC_NAME": "the stand-in of a school's service",
    }


def _stop_runner() -> None:
    pid = _runner()
    if pid is not None:
        os.killpg(pid, signal.SIGTERM)
        until = time.monotonic() + _WAIT_S
        while _runner() is not None and time.monotonic() < until:
            time.sleep(0.1)
    PID.unlink(missing_ok=True)


def _runner() -> int | None:
    """Give the runner's process id if it is still the process we started."""
    return int(PID.read_text(encoding="utf-8")) if _runs(PID, b"honcho") else None


def _runs(kept: Path, called: bytes) -> bool:
    """Whether the process whose id was kept still runs, and is the one that was started."""
    try:
        command = Path(f"/proc/{int(kept.read_text(encoding='utf-8'))}/cmdline").read_bytes()
    except OSError:
        return False
    return called in command


def _is_up() -> bool:
    if _runner() is None or not PORT.exists():
        return False
    try:
        with urlopen(f"{address()}health", timeout=2) as answer:
            return bool(answer.status == 200)
    except OSError:
        return False


def _is_current() -> bool:
    """Whether what runs was started after the newest change of the program."""
    changed = max(
        path.stat().st_mtime
        for path in (ROOT / "noema").rglob("*")
        if path.is_file() and "__pycache__" not in path.parts
    )
    return PID.stat().st_mtime > changed


def address() -> str:
    """Give where the pages are."""
    return f"http://127.0.0.1:{PORT.read_text(encoding='utf-8')}/"


def any_port() -> int:
    """Give a port of this machine that is free now."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def _free_port() -> int:
    wanted = os.environ.get("NOEMA_PORT")
    if wanted and not (wanted.isdigit() and 0 < int(wanted) < 65536):
        raise CantStart(f"NOEMA_PORT must be a port number, not “{wanted}”.")
    for port in [int(wanted)] if wanted else range(_FIRST_PORT, _FIRST_PORT + 100):
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("127.0.0.1", port))
            except OSError:
                continue
            return port
    raise CantStart(f"Port {wanted or _FIRST_PORT} is taken: set NOEMA_PORT to a free one.")


if __name__ == "__main__":
    try:
        {"demo": demo, "wait": wait, "start": start, "stop": stop, "noema": noema}[sys.argv[1]]()
    except CantStart as wrong:
        sys.exit(f"noema: {wrong}")
