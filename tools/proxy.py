"""Starts nginx in front of the pages.

What it does stands in deploy/nginx/pages.conf. Run:
PORT=… PAGES_PORT=… .venv/bin/python -m tools.proxy [FOLDER]
"""

import os
import shutil
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
PAGES = ROOT / "deploy/nginx/pages.conf"
UNPACKED = ROOT / ".venv/nginx/usr/sbin/nginx"
_FOLDER = Path(os.environ.get("PROXY_FOLDER", ROOT / ".local/nginx"))
_TEMPORARY = ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")

_CONFIGURATION = """
daemon off;
{user}
worker_processes 1;
pid {folder}/nginx.pid;
error_log stderr warn;
events {{ worker_connections 4096; }}
http {{
  access_log off;
  {temporary}
{site}
}}
"""
_SITE = """
  upstream noema_pages {{ server 127.0.0.1:{pages_port}; }}
  server {{
    listen 127.0.0.1:{port};
    include "{pages}";
  }}
"""


def program() -> str | None:
    """Find nginx: the system's, or the one unpacked beside the Python packages."""
    if UNPACKED.exists():
        return str(UNPACKED)
    return shutil.which("nginx", path=f"{os.environ.get('PATH', '')}:/usr/sbin")


def site(port: int, pages_port: int) -> str:
    """Say what is served on a port of this machine: the pages on another."""
    return _SITE.format(port=port, pages_port=pages_port, pages=PAGES)


def command(folder: Path, served: str) -> list[str]:
    """Give the command that runs nginx with a site, keeping what it needs in a folder."""
    found = program()
    if found is None:
        raise SystemExit("noema: nginx isn't there: run `make demo` or `make test` to fetch it.")
    folder.mkdir(parents=True, exist_ok=True)
    written = folder / "nginx.conf"
    written.write_text(
        _CONFIGURATION.format(
            folder=folder,
            user="user root;" if os.geteuid() == 0 else "",
            temporary="\n  ".join(f"{one}_temp_path {folder}/{one};" for one in _TEMPORARY),
            site=served,
        ),
        encoding="utf-8",
    )
    return [found, "-p", str(folder), "-c", str(written)]


def main() -> None:
    """Become the proxy."""
    folder = Path(sys.argv[1]).resolve() if sys.argv[1:] else _FOLDER
    line = command(folder, site(int(os.environ["PORT"]), int(os.environ["PAGES_PORT"])))
    os.execv(line[0], line)


if __name__ == "__main__":
    main()
