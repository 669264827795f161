"""Who looks at pictures, with whose tubes: a student, or a teacher for their class."""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any

from flask import url_for

from noema.actions.practise import BenchPaints, paints_of
from noema.core.colour.names import HueTable
from noema.core.errors import NotAllowed, Refused
from noema.core.language import gettext
from noema.core.pigments.shelf import PaintSet
from noema.store.assignments import assignments_of_class
from noema.store.classes import class_of_school
from noema.store.logbook import LogSource
from noema.store.paints import hue_words
from noema.store.pictures import (
    KeptPicture,
    PictureOwner,
    picture_of_class,
    picture_of_student,
    pictures_of_class,
    pictures_of_student,
)
from noema.store.student_work import classes_of_student, given_to_student
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me, the_student


@dataclass(frozen=True, kw_only=True)
class PictureDesk:
    """Somebody who looks at pictures."""

    frame: Frame | None  # none: a student's page
    name: str  # of the student, or of the class
    owner: PictureOwner  # of what is put in here
    given: BenchPaints
    table: HueTable
    pages: str  # the blueprint
    back: str
    class_ids: tuple[int, ...]
    where: dict[str, Any] = field(default_factory=dict)  # what every address holds

    @property
    def teaches(self) -> bool:
        """Whether exercises can be made and other cupboards chosen."""
        return self.frame is not None

    @property
    def paints(self) -> PaintSet:
        """The tubes, as they were learned."""
        return self.given.bench.paints

    def url(self, page: str, **more: Any) -> str:
        """Give the address of one of these pages."""
        return url_for(f"{self.pages}.{page}", **self.where, **more)

    def pictures(self) -> tuple[KeptPicture, ...]:
        """Give the pictures that may be looked at."""
        if self.owner.student_id is None:
            return pictures_of_class(db(), self.owner.class_id)
        return pictures_of_student(db(), self.owner.student_id, self.class_ids)

    def picture(self, picture_id: int) -> KeptPicture:
        """Give one that may be looked at."""
        if self.owner.student_id is None:
            return picture_of_class(db(), self.owner.class_id, picture_id)
        return picture_of_student(db(), self.owner.student_id, self.class_ids, picture_id)

    def may_change(self, picture: KeptPicture) -> bool:
        """Whether spots may be put into a picture: by whose it is, and a teacher into any."""
        return self.teaches or picture.student_id == self.owner.student_id

    def own(self, picture_id: int) -> KeptPicture:
        """Give one that may be changed."""
        picture = self.picture(picture_id)
        if not self.may_change(picture):
            raise NotAllowed(
                gettext("This picture is your class's: take it to your own pictures first.")
            )
        return picture

    def owner_of(self, picture: KeptPicture) -> PictureOwner:
        """Give whose a picture is."""
        return PictureOwner(
            school_id=picture.school_id,
            class_id=picture.class_id,
            student_id=picture.student_id,
        )

    def log_source(self) -> LogSource:
        """Give whose logbook a colour goes into."""
        return LogSource(
            school_id=self.owner.school_id,
            class_id=self.owner.class_id,
            student_id=self.owner.student_id,
        )

    def logbook_url(self, **more: Any) -> str:
        """Give the address of their logbook."""
        if self.owner.student_id is not None:
            return url_for("logbook.of_mine", **more)
        return url_for("class_logbook.of_class", class_id=self.owner.class_id, **more)


DeskOf = Callable[..., PictureDesk]


def own_desk() -> PictureDesk:
    """Give a student's own."""
    student = the_student()
    classes = classes_of_student(db(), student.id)
    if not classes:
        raise Refused(gettext("Join a class first: pictures are painted with its tubes."))
    owner = PictureOwner(school_id=student.school_id, class_id=classes[0].id, student_id=student.id)
    return PictureDesk(
        frame=None,
        name=student.display_name,
        owner=owner,
        given=paints_of(db(), given_to_student(db(), student.id)),
        table=hue_words(db(), student.school_id).table,
        pages="own_pictures",
        back=url_for("painting.due"),
        class_ids=tuple(one.id for one in classes),
    )


def class_desk(class_id: int) -> PictureDesk:
    """Give a class's, before its teacher."""
    row = class_of_school(db(), me().school_id, class_id)
    return PictureDesk(
        frame=frame(Stage.PLAN),
        name=row.name,
        owner=PictureOwner(school_id=me().school_id, class_id=class_id),
        given=paints_of(db(), assignments_of_class(db(), class_id)),
        table=hue_words(db(), me().school_id).table,
        pages="class_pictures",
        back=url_for("classes.of_class", class_id=class_id),
        class_ids=(class_id,),
        where={"class_id": class_id},
    )
