"""How often a job is done again: soon where it failed, for hours where its surroundings did."""

from procrastinate import BaseRetryStrategy, RetryDecision
from procrastinate.jobs import Job
from sqlalchemy.exc import OperationalError

from noema.core.errors import NotFound, StoreAway, StoreFull

SURROUNDINGS = (OperationalError, StoreAway, StoreFull, MemoryError, OSError, NotFound)
"""What fails without the job's fault: the database, the file store, the machine."""

_TRIES, _SOON_S = 3, 1
_LONGEST_S, _TRIES_OF_SURROUNDINGS = 3600, 24


class Patience(BaseRetryStrategy):
    """Three tries a second apart; where the surroundings failed, ever rarer for most of a day."""

    def get_retry_decision(self, *, exception: BaseException, job: Job) -> RetryDecision | None:
        """Say when a job is done again; None: no more."""
        if isinstance(exception, SURROUNDINGS):
            if job.attempts >= _TRIES_OF_SURROUNDINGS:
                return None
            return RetryDecision(retry_in={"seconds": min(4 ** (job.attempts + 1), _LONGEST_S)})
        if job.attempts + 1 >= _TRIES:
            return None
        return RetryDecision(retry_in={"seconds": _SOON_S})

    def is_last(self, exception: BaseException, attempts: int) -> bool:
        """Say whether nothing more is tried after a failure."""
        most = _TRIES_OF_SURROUNDINGS if isinstance(exception, SURROUNDINGS) else _TRIES - 1
        return attempts >= most
