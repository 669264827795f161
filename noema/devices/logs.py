"""Logs as lines of JSON, each with the request or job it belongs to; no person is named in them."""

import logging
import re
import sys
from uuid import uuid4

import structlog

_ID = re.compile(r"[\w.-]{8,64}")


def begin_logs() -> None:
    """Write everything that is logged, by whichever library, as JSON on standard error."""
    shared: list[structlog.typing.Processor] = [
        structlog.contextvars.merge_contextvars,
        structlog.stdlib.add_log_level,
        structlog.stdlib.add_logger_name,
        structlog.stdlib.ExtraAdder(allow=("action", "job")),  # of the queue: numbers alone
        structlog.processors.TimeStamper(fmt="iso", utc=True),
    ]
    formatter = structlog.stdlib.ProcessorFormatter(
        foreign_pre_chain=shared,
        processors=[
            structlog.stdlib.ProcessorFormatter.remove_processors_meta,
            structlog.processors.format_exc_info,
            structlog.processors.JSONRenderer(ensure_ascii=False),
        ],
    )
    handler = logging.StreamHandler(sys.stderr)
    handler.setFormatter(formatter)
    structlog.configure(
        processors=[*shared, structlog.stdlib.ProcessorFormatter.wrap_for_formatter],
        logger_factory=structlog.stdlib.LoggerFactory(),
        cache_logger_on_first_use=True,
    )
    root = logging.getLogger()
    root.handlers[:] = [handler]
    root.setLevel(logging.INFO)


def belongs_to(**ids: str | int) -> None:
    """Let what is logged from now on, in this request or job, say what it belongs to."""
    structlog.contextvars.bind_contextvars(**ids)


def belongs_to_nothing() -> None:
    """End that."""
    structlog.contextvars.clear_contextvars()


def request_id(given: str) -> str:
    """Give the id a proxy gave a request, or a new one where it gave none that will do."""
    return given if _ID.fullmatch(given) else uuid4().hex
