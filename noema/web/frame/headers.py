"""Who may keep what: pages nobody, pictures their own browser if it asks each time."""

from flask import Response, request


def keep_little(response: Response) -> Response:
    """Let no cache keep what is a school's; files of the application may be kept an hour."""
    if request.endpoint != "static" and not response.cache_control.no_cache:
        response.cache_control.clear()
        response.cache_control.no_store = True
    return response
