"""Follows docs/operations.md word for word on a bare Debian, upgrades it, loses it and restores it.

Each Debian is a debootstrap tree that systemd boots as a container on this machine's network: ports
80 and 443 must be free, and no PostgreSQL may run on it. Needs root, and Debian's debootstrap and
systemd-container. The older release is given by its commit.

Run: .venv/bin/python -m tools.bare_debian OLDER-COMMIT [folder]
"""

import os
import re
import shutil
import signal
import subprocess
import sys
import tempfile
import time
from collections.abc import Mapping
from pathlib import Path

import requests
import trustme
import urllib3

_ROOT = Path(__file__).parents[1]
_HOST = "noema.school.example"
_MIRROR, _RELEASE = "http://deb.debian.org/debian", "bookworm"
_BOOTS_S, _UP_S = 60.0, 120.0
_SECRETS = ("NOEMA_SECRET_KEY", "NOEMA_CARD_KEY", "NOEMA_SETUP_WORD")
_EMAIL, _PASSWORD = "rosa@first.example", "umber otter at noon"
_PIP = Path("/etc/pip.conf")
_OF_THE_SITE = (str(_PIP), "/etc/xdg/pip", "/etc/ssl/certs/ca-certificates.crt")
"""How packages are fetched at the place this runs: no part of Noema."""
_COUNTED = ("school", "teacher", "student", "sheet", "photograph", "reading", "judgement")


class Debian:
    """A bare Debian, booted."""

    def __init__(self, tree: Path, plain: Path, shared: Path) -> None:
        subprocess.run(["cp", "-a", str(plain), str(tree)], check=True)
        for name in _OF_THE_SITE:
            if Path(name).exists():
                there = tree / name.lstrip("/")
                there.parent.mkdir(parents=True, exist_ok=True)
                subprocess.run(["cp", "-rL", name, str(there)], check=True)
        self._tree = tree
        self._log = tree.with_suffix(".log").open("ab")
        folders = [f"--bind-ro={shared}:/shared"]
        folders += [f"--bind-ro={place}" for place in _wheels()]
        words = ["systemd-nspawn", "--register=no", "--keep-unit", *folders, "-D", str(tree), "-b"]
        self._container = subprocess.Popen(
            words, stdout=self._log, stderr=self._log, stdin=subprocess.DEVNULL
        )
        self._leader = self._found()

    def run(self, command: str, more: Mapping[str, str] | None = None) -> str:
        """Run a command as root's shell would; gives what it wrote."""
        site = {key: value for key, value in os.environ.items() if key.startswith(("PIP_", "SSL_"))}
        usual = {"PATH": "/usr/local/sbin:/usr/local/bin:/usr/sbin:/usr/bin:/sbin:/bin"}
        done = subprocess.run(
            ["nsenter", "-t", str(self._leader), "-m", "-u", "-i", "-p", "-C", "-r", "-w",
             "sh", "-euc", f"cd /\n{command}"],
            env={**usual, "LANG": "C.UTF-8", "DEBIAN_FRONTEND": "noninteractive", **site,
                 **(more or {})},
            capture_output=True, text=True, check=False,
        )  # fmt: skip
        self._log.write(f"\n$ {command}\n{done.stdout}{done.stderr}".encode())
        self._log.flush()
        if done.returncode:
            sys.exit(f"bare_debian: “{command}” failed:\n{done.stdout[-800:]}{done.stderr[-2000:]}")
        return done.stdout

    def write(self, place: str, text: str) -> None:
        """Write a file, as an editor or a copy would."""
        (self._tree / place.lstrip("/")).write_text(text, encoding="utf-8")

    def read(self, place: str) -> str:
        """Give a file's text."""
        return (self._tree / place.lstrip("/")).read_text(encoding="utf-8")

    def lose(self) -> None:
        """Lose the machine with all that is on it."""
        os.kill(self._leader, signal.SIGKILL)  # all that runs in it goes with its first process
        self._container.wait()
        self._log.close()
        shutil.rmtree(self._tree)

    def _found(self) -> int:
        """Find the container's first process, and wait until it has booted."""
        until = time.monotonic() + _BOOTS_S
        while time.monotonic() < until:
            children = Path(f"/proc/{self._container.pid}/task/{self._container.pid}/children")
            pids = children.read_text(encoding="utf-8").split() if children.exists() else []
            if pids:
                self._leader = int(pids[0])
                asked = ["nsenter", "-t", pids[0], "-a", "systemctl", "is-system-running"]
                said = subprocess.run(asked, capture_output=True, text=True, check=False).stdout
                if said.strip() in ("running", "degraded"):
                    return int(pids[0])
            time.sleep(0.5)
        sys.exit("bare_debian: the container didn't boot: see its log.")


def _wheels() -> list[str]:
    """Give the folders that this place's pip looks into."""
    told = _PIP.read_text(encoding="utf-8") if _PIP.exists() else ""
    found = re.findall(r"(?:file://)?(/opt/[\w-]+)", told)
    return sorted({place for place in found if Path(place).is_dir()})


def blocks(page: str, heading: str) -> list[str]:
    """Give the commands under a heading of the page, block by block."""
    part = page.split(f"\n## {heading}\n", 1)[1].split("\n## ", 1)[0]
    return [re.sub(r"(?m)^ {3}", "", one) for one in re.findall(r"(?s)```\n(.*?)```", part)]


def first_start(debian: Debian, page: str, settings: str | None = None, until_step: int = 5) -> str:
    """Follow the first start; gives the settings that were filled in, or were kept."""
    for step, block in enumerate(blocks(page, "First start")[:until_step], start=1):
        if step == 4:
            _lay_certificate(debian)
        for line in block.replace("WHERE-NOEMA-IS", "/shared/noema.git").splitlines():
            if line.startswith("editor /etc/noema/noema.env"):
                settings = settings or _filled(debian.read("/etc/noema/noema.env"))
                debian.write("/etc/noema/noema.env", settings)
            elif line.startswith("editor "):
                place = line.split()[1]
                debian.write(place, debian.read(place).replace("noema.school.example", _HOST))
            else:
                debian.run(line)
    assert settings is not None
    return settings


def _filled(shipped: str) -> str:
    for name in _SECRETS:
        shipped = re.sub(f"(?m)^{name}=$", f"{name}={name.lower()}-{'x' * 40}", shipped)
    return shipped.replace("noema.school.example", _HOST)


def _lay_certificate(debian: Debian) -> None:
    authority = trustme.CA()
    issued = authority.issue_cert(_HOST)
    chain = b"".join(one.bytes() for one in issued.cert_chain_pems).decode()
    debian.write("/etc/noema/tls/certificate.pem", chain)
    debian.write("/etc/noema/tls/key.pem", issued.private_key_pem.bytes().decode())
    debian.run("chmod 0600 /etc/noema/tls/key.pem")


def visitor() -> requests.Session:
    """Give a browser that finds the host name on this machine."""
    session = requests.Session()
    session.headers["Host"] = _HOST
    session.headers["Referer"] = f"https://{_HOST}/"
    session.trust_env = False  # what certificates this machine knows says nothing of these
    session.verify = False
    return session


def _page(browser: requests.Session, path: str) -> str:
    until = time.monotonic() + _UP_S
    while True:
        try:
            answer = browser.get(f"https://127.0.0.1{path}", timeout=60)
            answer.raise_for_status()
            return answer.text
        except requests.RequestException:
            if time.monotonic() > until:
                raise
            time.sleep(1.0)


def _posted(browser: requests.Session, path: str, fields: Mapping[str, str]) -> str:
    token = _page(browser, path).split('name="csrf_token" value="', 1)[1].split('"', 1)[0]
    answer = browser.post(
        f"https://127.0.0.1{path}",
        data={**fields, "csrf_token": token},
        timeout=60,
        allow_redirects=False,
    )
    assert answer.status_code in (302, 303), answer.text[:500]
    return answer.headers["Location"]


def log_in(browser: requests.Session, email: str, password: str) -> None:
    """Log in over HTTPS; refuses whatever isn't a log-in."""
    to = _posted(browser, "/log-in", {"email": email, "password": password})
    assert "log-in" not in to, to


def counted(debian: Debian) -> dict[str, int]:
    """Count the rows that matter."""
    questions = " UNION ALL ".join(f"SELECT '{name}', count(*) FROM {name}" for name in _COUNTED)
    said = debian.run(f'runuser -u noema -- psql -AtF " " noema -c "{questions}"')
    return {name: int(count) for name, count in map(str.split, said.splitlines())}


def found_school(browser: requests.Session, settings: str) -> None:
    """Found the first school on the page that asks for it, and log in."""
    word = settings.split("NOEMA_SETUP_WORD=", 1)[1].split("\n", 1)[0]
    school = {"school": "First School", "time_zone": "Europe/London", "name": "Rosa Weld"}
    mine = {"email": _EMAIL, "password": _PASSWORD, "word": word}
    _posted(browser, "/first-run", {**school, **mine})
    log_in(visitor(), _EMAIL, _PASSWORD)


def _since(begins: float) -> str:
    return f"{(time.monotonic() - begins) / 60.0:.1f} minutes"


def main() -> None:
    """Follow the page twice: on a machine that is upgraded and lost, and on the next one."""
    if os.geteuid() != 0 or len(sys.argv) < 2:
        sys.exit("bare_debian: run it as root, with the commit of an older release.")
    urllib3.disable_warnings()  # the certificate is of an authority made just now
    folder = Path(sys.argv[2] if sys.argv[2:] else tempfile.mkdtemp(prefix="noema-bare-"))
    plain, shared = folder / "plain", folder / "shared"
    shared.mkdir(parents=True)
    source = shared / "noema.git"
    subprocess.run(["git", "clone", "-q", "--bare", str(_ROOT), str(source)], check=True)
    newest = _git(source, "rev-parse", "HEAD")
    if not plain.exists():
        include = "--include=systemd,systemd-sysv,dbus,ca-certificates"
        words = ["debootstrap", "--variant=minbase", include, _RELEASE, str(plain), _MIRROR]
        subprocess.run(words, check=True, stdout=subprocess.DEVNULL)
    branch = _git(source, "symbolic-ref", "--short", "HEAD")
    _git(source, "update-ref", f"refs/heads/{branch}", sys.argv[1])
    page = _git(source, "show", f"{sys.argv[1]}:docs/operations.md")

    begins, old = time.monotonic(), Debian(folder / "old", plain, shared)
    settings = first_start(old, page)
    found_school(visitor(), settings)
    print(
        f"the older release, from a bare Debian to the first log-in: {_since(begins)}", flush=True
    )
    old.run("/opt/noema/deploy/noema demo")
    before = counted(old)
    print(f"its demo data: {before}", flush=True)
    _git(source, "update-ref", f"refs/heads/{branch}", newest)
    begins = time.monotonic()
    for block in blocks(page, "Upgrade"):
        for line in block.splitlines():
            old.run(line)
    log_in(visitor(), _EMAIL, _PASSWORD)
    print(f"upgraded in {_since(begins)}: {_same(before, counted(old))}", flush=True)
    old.run("/opt/noema/deploy/noema backup /var/lib/noema/last.tar")
    kept = old.read("/etc/noema/noema.env")
    shutil.copy(folder / "old/var/lib/noema/last.tar", shared / "last.tar")
    old.lose()

    page = _git(source, "show", f"{newest}:docs/operations.md")
    begins, new = time.monotonic(), Debian(folder / "new", plain, shared)
    first_start(new, page, kept, until_step=4)
    new.run("install -o noema -g noema -m 0600 /shared/last.tar /var/lib/noema/last.tar")
    for line in blocks(page, "Backups and restore")[0].splitlines():
        new.run(line.replace("FILE", "/var/lib/noema/last.tar"))
    for line in blocks(page, "First start")[4].splitlines():
        new.run(line)
    log_in(visitor(), _EMAIL, _PASSWORD)
    print(f"after the loss of everything, back in {_since(begins)}: {_same(before, counted(new))}")
    new.lose()


def _same(before: Mapping[str, int], after: Mapping[str, int]) -> str:
    """Say whether every row is there; what was still waiting may have been read meanwhile."""
    fewer = {name: (count, after[name]) for name, count in before.items() if after[name] < count}
    return f"rows are lost: {fewer}" if fewer else "no row is lost"


def _git(source: Path, *words: str) -> str:
    done = subprocess.run(
        ["git", "-C", str(source), *words], capture_output=True, text=True, check=True
    )
    return done.stdout.strip()


if __name__ == "__main__":
    main()
