"""Starts nginx in front of the pages.

It takes in what slow senders send and gives them what they are slow to fetch, so that none of them
holds one of the pages' threads. Run: PORT=… PAGES_PORT=… .venv/bin/python -m tools.proxy [FOLDER]
"""

import os
import shutil
import sys
from pathlib import Path

ROOT = Path(__file__).parents[1]
UNPACKED = ROOT / ".venv/nginx/usr/sbin/nginx"
_FOLDER = Path(os.environ.get("PROXY_FOLDER", ROOT / ".local/nginx"))
_TEMPORARY = ("client_body", "proxy", "fastcgi", "uwsgi", "scgi")

_LARGER = {
    "= /photograph": 1201,
    "= /rosters": 17,
    r"~ ^/(batches/\d+/photos|photographs/\d+/another|me/exercises/\d+/photographs)$": 31,
    r"~ ^/printers/\d+/photographs$": 120,
}
"""Addresses that take more than forms do, in megabytes."""

_CONFIGURATION = """
daemon off;
{user}
worker_processes 1;
pid {folder}/nginx.pid;
error_log stderr warn;
events {{ worker_connections 4096; }}
http {{
  access_log off;
  server_tokens off;
  {temporary}
  client_header_timeout 10s;
  client_body_timeout 15s;
  send_timeout 15s;
  keepalive_timeout 30s;
  reset_timedout_connection on;
  client_max_body_size 4m;
  default_type text/html;
  server {{
    listen 127.0.0.1:{port};
    proxy_http_version 1.1;
    proxy_set_header Host $http_host;
    proxy_set_header X-Forwarded-For $remote_addr;
    proxy_set_header X-Forwarded-Proto $scheme;
    proxy_set_header X-Forwarded-Host $http_host;
    proxy_read_timeout 130s;
    error_page 413 @too_large;
    error_page 502 504 =503 @away;
    # As the pages refuse them (noema/web/frame/bodies.py): here they needn't be taken in first.
{larger}
    location / {{
      proxy_pass http://127.0.0.1:{pages_port};
    }}
    location @too_large {{
      return 413 "<p>That is more than can be sent at once: send fewer or smaller files.</p>";
    }}
    location @away {{
      add_header Refresh 5 always;
      return 503 "<p>Noema is starting: this page tries again.</p>";
    }}
  }}
}}
"""


def program() -> str | None:
    """Find nginx: the system's, or the one unpacked beside the Python packages."""
    if UNPACKED.exists():
        return str(UNPACKED)
    return shutil.which("nginx", path=f"{os.environ.get('PATH', '')}:/usr/sbin")


def configure(folder: Path, port: int, pages_port: int) -> Path:
    """Write the configuration of a proxy on one port before pages on another."""
    folder.mkdir(parents=True, exist_ok=True)
    written = folder / "nginx.conf"
    written.write_text(
        _CONFIGURATION.format(
            folder=folder,
            port=port,
            pages_port=pages_port,
            user="user root;" if os.geteuid() == 0 else "",
            larger="\n".join(
                f"    location {place} {{ client_max_body_size {most}m; "
                f"proxy_pass http://127.0.0.1:{pages_port}; }}"
                for place, most in _LARGER.items()
            ),
            temporary="\n  ".join(f"{one}_temp_path {folder}/{one};" for one in _TEMPORARY),
        ),
        encoding="utf-8",
    )
    return written


def command(folder: Path, port: int, pages_port: int) -> list[str]:
    """Give the command that runs a proxy."""
    found = program()
    if found is None:
        raise SystemExit("noema: nginx isn't there: run `make demo` or `make test` to fetch it.")
    return [found, "-p", str(folder), "-c", str(configure(folder, port, pages_port))]


def main() -> None:
    """Become the proxy."""
    folder = Path(sys.argv[1]).resolve() if sys.argv[1:] else _FOLDER
    line = command(folder, int(os.environ["PORT"]), int(os.environ["PAGES_PORT"]))
    os.execv(line[0], line)


if __name__ == "__main__":
    main()
