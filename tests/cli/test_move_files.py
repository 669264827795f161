"""noema move-files, from a folder to a service."""

import os
import subprocess
from pathlib import Path

from noema.devices.stores_at import files_at
from tests.bucket import new_bucket, object_service

NOEMA = Path(__file__).parents[2] / ".venv/bin/noema"


def move(files, old):
    environment = {
        **os.environ,
        "NOEMA_DATABASE_URL": "postgresql://nobody@127.0.0.1:1/none",
        "NOEMA_FILES": files,
        "NOEMA_OLD_FILES": old,
    }
    command = [NOEMA, "move-files"]
    return subprocess.run(command, env=environment, capture_output=True, text=True, check=False)


def test_files_go_to_the_new_store_and_what_is_spoilt_stays_and_is_said(tmp_path):
    old = str(tmp_path / "old")
    bodies = [b"%d" % number for number in range(4)]
    names = [files_at(old).put(body) for body in bodies]
    spoilt = Path(old, names[0][:2], names[0][2:])
    spoilt.write_bytes(b"another picture")
    with object_service() as service:
        new = new_bucket(service)
        moved = move(new, old)
        assert "3 files moved" in moved.stdout
        assert (moved.returncode, "1 files are still in the old store" in moved.stderr) == (2, True)
        assert sorted(files_at(new).every()) == bodies[1:]
        spoilt.unlink()
        assert "Nothing is left" in move(new, old).stdout


def test_without_an_old_store_nothing_is_moved(tmp_path):
    refused = move(str(tmp_path), "")
    assert (refused.returncode, "NOEMA_OLD_FILES isn't set" in refused.stderr) == (2, True)
