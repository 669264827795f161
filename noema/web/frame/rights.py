"""Which right a page asks for; the table is the only place that says so."""

from collections.abc import Mapping

from flask_login import current_user

from noema.core.joining.role import Right

_BY_FEATURE: Mapping[str, Right] = {
    "school": Right.RUN_SCHOOL,
    "people": Right.RUN_SCHOOL,
    "erasure": Right.RUN_SCHOOL,
    "records": Right.RUN_SCHOOL,
    "today": Right.HELP,
    "account": Right.HELP,
    "printing": Right.HELP,
    "handing_in": Right.HELP,
    "aiming": Right.HELP,
    "again": Right.HELP,
    "finding": Right.HELP,
    "search": Right.HELP,
    "trial": Right.HELP,
    "helping": Right.HELP,
    "placing": Right.HELP,
    "pictures": Right.HELP,
    "lay_out": Right.HELP,
    "wall": Right.HELP,
    "logging_in": Right.HELP,
}
"""By feature; every other is a teacher's."""

_BY_PAGE: Mapping[str, Right] = {
    "school.of_school": Right.TEACH,
    "school.planned": Right.TEACH,
    "lesson.of_class": Right.HELP,
    "lesson.on_paper": Right.HELP,
    "records.of_class": Right.TEACH,
    "records.assign_key": Right.TEACH,
    "records.grades": Right.TEACH,
    "records.grade_grid": Right.TEACH,
    "records.results": Right.TEACH,
    "records.measurements": Right.TEACH,
    "records.due": Right.TEACH,
    "records.class_archive": Right.TEACH,
    "records.key_file": Right.TEACH,
    "records.take_set": Right.TEACH,
}
"""Pages that ask for another right than their feature."""


def right_of(endpoint: str) -> Right:
    """Give the right that a page of teachers asks for."""
    feature = endpoint.partition(".")[0]
    return _BY_PAGE.get(endpoint, _BY_FEATURE.get(feature, Right.TEACH))


def may(endpoint: str) -> bool:
    """Say whether who asks may look at a page."""
    teacher = getattr(current_user, "teacher", None)
    return teacher is not None and right_of(endpoint) in teacher.role.rights
