"""Pictures sent to whoever may see them: kept by their own browser alone, which asks each time."""

from io import BytesIO

from flask import Response, send_file


def privately(data: bytes, mimetype: str, etag: str | None = None) -> Response:
    """Send bytes; those under a hash never change, so that a browser need not fetch them twice."""
    answer = send_file(BytesIO(data), mimetype=mimetype, etag=etag or True, conditional=bool(etag))
    answer.cache_control.clear()
    answer.cache_control.private = True
    answer.cache_control.no_cache = True
    return answer
