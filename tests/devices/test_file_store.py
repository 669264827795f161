"""What every file store must do."""

import errno
import hashlib
import os

import pytest

from noema.core.errors import NotFound, StoreFull
from noema.devices.file_store import LocalFiles


def test_bytes_come_back_under_their_hash(tmp_path):
    files = LocalFiles(tmp_path)
    data = bytes(range(256)) * 9
    assert files.put(data) == hashlib.sha256(data).hexdigest()
    assert files.put(data) == hashlib.sha256(data).hexdigest()
    assert files.get(hashlib.sha256(data).hexdigest()) == data
    assert sum(path.is_file() for path in tmp_path.rglob("*")) == 1


def test_what_isnt_there_is_said(tmp_path):
    with pytest.raises(NotFound, match="not in the file store"):
        LocalFiles(tmp_path).get("0" * 64)


def test_a_folder_that_cant_be_written_is_said(tmp_path):
    (tmp_path / "files").write_text("a file where the folder should be", encoding="utf-8")
    with pytest.raises(StoreFull, match="couldn't be kept"):
        LocalFiles(tmp_path / "files").put(b"x")


def test_a_full_disk_is_said_and_leaves_nothing(tmp_path, monkeypatch):
    def full(_descriptor):
        raise OSError(errno.ENOSPC, "No space left on device")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(StoreFull, match="disk is full"):
        LocalFiles(tmp_path).put(b"x")
    assert not [path for path in tmp_path.rglob("*") if path.is_file()]
