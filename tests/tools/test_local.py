"""A missing or broken part gets one clear line that says what to do."""

import socket

import pytest

from tools import cluster as cluster_module
from tools import local
from tools.cluster import CantStart, Cluster


def test_without_postgresql_its_package_is_named(tmp_path, monkeypatch):
    monkeypatch.setattr(cluster_module.glob, "glob", lambda _pattern: [])
    monkeypatch.setenv("PATH", str(tmp_path))
    with pytest.raises(CantStart, match="apt-get install postgresql"):
        cluster_module._program("initdb")


def test_a_taken_port_is_named(monkeypatch):
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        monkeypatch.setenv("NOEMA_PORT", str(taken.getsockname()[1]))
        with pytest.raises(CantStart, match="is taken: set NOEMA_PORT"):
            local._free_port()


@pytest.mark.parametrize("port", ["web", "0", "99999"])
def test_a_port_that_is_none_is_said(monkeypatch, port):
    monkeypatch.setenv("NOEMA_PORT", port)
    with pytest.raises(CantStart, match="must be a port number"):
        local._free_port()


def test_a_folder_that_cant_be_made_is_said(tmp_path, monkeypatch):
    (tmp_path / "file").write_text("in the way", encoding="utf-8")
    monkeypatch.setattr(local, "LOCAL", tmp_path / "file" / "local")
    with pytest.raises(CantStart, match="can't be written"):
        local._make_folder()
    cluster = Cluster(tmp_path)
    cluster.folder = tmp_path / "file" / "postgres"
    with pytest.raises(CantStart, match="can't be made"):
        cluster.start()


def test_a_kept_port_is_kept_while_it_is_free(tmp_path):
    cluster = Cluster(tmp_path)
    cluster.folder = tmp_path
    port = cluster._free_port()
    (cluster.folder / "port").write_text(str(port), encoding="utf-8")
    assert cluster._free_port() == port
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", port))
        taken.listen()
        assert cluster._free_port() != port
