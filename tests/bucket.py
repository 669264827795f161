"""A bucket of a test's own, on a service on loopback that keeps it in memory."""

import logging
from contextlib import contextmanager
from uuid import uuid4

import requests
from moto.server import ThreadedMotoServer

logging.getLogger("werkzeug").setLevel(logging.ERROR)


@contextmanager
def object_service():
    """Give the address of a service that speaks S3's protocol, as host:port."""
    server = ThreadedMotoServer(ip_address="127.0.0.1", port=0)
    server.start()
    host, port = server.get_host_and_port()
    yield f"{host}:{port}"
    server.stop()


def new_bucket(service: str) -> str:
    """Make an empty bucket; gives it as a place of the settings."""
    name = f"photographs-{uuid4().hex[:8]}"
    requests.put(f"http://{service}/{name}", timeout=10).raise_for_status()
    return f"s3+http://key:s%2Fecret@{service}/{name}/noema"
