"""Where a photograph and a student's work on an assignment stand."""

from enum import Enum

from noema.core.judging.review import ReviewState
from noema.core.language import N_


class PhotoState(Enum):
    """Where a photograph stands between camera and reading."""

    READING = N_("reading")  # stored and queued, or being read
    READ = N_("read")  # read and judged
    TOGETHER = N_("read together")  # with an earlier photograph of the same sheet, one attempt
    UNMATCHED = N_("unmatched")  # a sheet was seen but nobody knows whose
    UNREADABLE = N_("unreadable")  # no reading could be made; the picture is kept
    SET_ASIDE = N_("set aside")  # the teacher doesn't want it read; the picture is kept


class WorkState(Enum):
    """Where one student's work on one assignment stands, by the latest attempt."""

    NOT_PRINTED = N_("not printed")  # the teacher prints first
    WAITING = N_("waiting")  # for the student's photograph
    READING = N_("reading")
    UNREADABLE = N_("unreadable")  # a new photograph is needed
    TO_REVIEW = N_("to review")  # for the teacher
    SENT_BACK = N_("sent back")  # for the student's next attempt
    ACCEPTED = N_("accepted")
    EXCUSED = N_("excused")  # nothing is owed

    @property
    def is_owed(self) -> bool:
        """Whether the student's next act is still to come."""
        return self in (
            WorkState.NOT_PRINTED,
            WorkState.WAITING,
            WorkState.UNREADABLE,
            WorkState.SENT_BACK,
        )


def work_state(
    printed: bool, photo: PhotoState | None, review: ReviewState | None, *, excused: bool = False
) -> WorkState:
    """Say where the work stands from its latest photograph and that photograph's review.

    What an excused student handed in all the same stands as anybody's.
    """
    state = _work_state(printed, photo, review)
    return WorkState.EXCUSED if excused and state.is_owed else state


def _work_state(printed: bool, photo: PhotoState | None, review: ReviewState | None) -> WorkState:
    if photo is None:
        return WorkState.WAITING if printed else WorkState.NOT_PRINTED
    if photo in (PhotoState.READING, PhotoState.UNMATCHED):
        return WorkState.READING
    if photo is not PhotoState.READ:
        return WorkState.UNREADABLE
    match review:
        case ReviewState.ACCEPTED:
            return WorkState.ACCEPTED
        case ReviewState.SENT_BACK:
            return WorkState.SENT_BACK
    return WorkState.TO_REVIEW
