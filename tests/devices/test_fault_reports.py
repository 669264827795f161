"""Faults that are reported say where in the program they were, and nothing of anybody."""

import gzip
import subprocess
import sys
import threading
from http.server import BaseHTTPRequestHandler, HTTPServer

import brotli

CODE = """
import logging
import sys
from noema.devices.fault_reports import begin_reports

begin_reports(sys.argv[1], "noema@1")
logging.getLogger("noema.actions").info("Ada Reed hands in")


def hand_in(student):
    raise ValueError(f"{student} isn't in the class")


try:
    hand_in("Ada Reed")
except ValueError:
    logging.getLogger("noema.web").exception("It broke for %s", "Ada Reed")
"""


_PLAIN = {None: bytes, "gzip": gzip.decompress, "br": brotli.decompress}


class Service(BaseHTTPRequestHandler):
    """Keeps what is reported."""

    came = []

    def do_POST(self):
        body = self.rfile.read(int(self.headers["Content-Length"]))
        self.came.append(_PLAIN[self.headers["Content-Encoding"]](body))
        self.send_response(200)
        self.end_headers()
        self.wfile.write(b"{}")

    def log_message(self, *_said):
        """Say nothing."""


def test_a_fault_is_reported_without_anybodys_name():
    service = HTTPServer(("127.0.0.1", 0), Service)
    threading.Thread(target=service.serve_forever, daemon=True).start()
    place = f"http://key@127.0.0.1:{service.server_port}/1"
    subprocess.run([sys.executable, "-c", CODE, place], check=True, capture_output=True)
    service.shutdown()
    service.server_close()
    told = b"".join(Service.came).decode()
    assert '"ValueError"' in told
    assert '"hand_in"' in told
    assert '"noema@1"' in told
    assert "Ada" not in told
    assert "class" not in told.split('"stacktrace"')[0]
