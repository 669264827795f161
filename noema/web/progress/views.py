"""Progress: a class at a glance, a student over time."""

from dataclasses import dataclass

from flask import Blueprint, redirect, render_template, request, url_for
from werkzeug.wrappers import Response

from noema.store.classes import classes_found
from noema.web.frame.leaf import MOST_CLASSES, LeafPlace, leaf_place, wanted_leaf
from noema.web.frame.page import Frame, Stage, frame
from noema.web.frame.request import db, me
from noema.web.frame.weeks import ClassLine, class_lines
from noema.web.progress.class_page import class_page
from noema.web.progress.parents_page import parents_page
from noema.web.progress.skills_page import glance_page, skills_page
from noema.web.progress.student_page import student_page

progress = Blueprint("progress", __name__)


@dataclass(frozen=True, kw_only=True)
class OverviewPage:
    """Classes that go on."""

    frame: Frame
    classes: tuple[ClassLine, ...]
    leaf: LeafPlace


@progress.get("/progress")
def overview() -> Response | str:
    """Show the classes, or the only one."""
    wanted = wanted_leaf(MOST_CLASSES)
    leaf = classes_found(db(), me().school_id, wanted)
    place = leaf_place(wanted, leaf)
    if len(leaf.shown) == 1 and not place.is_part:
        return redirect(url_for("progress.of_class", class_id=leaf.shown[0].id))
    page = OverviewPage(frame=frame(Stage.PROGRESS), classes=class_lines(leaf.shown), leaf=place)
    return render_template("progress/overview.html", page=page)


@progress.get("/progress/classes/<int:class_id>/glance")
def glance(class_id: int) -> str:
    """Say what moved in a class, who is stuck on what, what to give next; fetched by the list."""
    return render_template("progress/glance.html", page=glance_page(class_id))


@progress.get("/progress/classes/<int:class_id>")
def of_class(class_id: int) -> str:
    """Show a class: students by assignment."""
    return render_template(
        "progress/class.html", page=class_page(class_id, every="all" in request.args)
    )


@progress.get("/progress/classes/<int:class_id>/students/<int:student_id>")
def of_student(class_id: int, student_id: int) -> str:
    """Show a student's attempts in time."""
    return render_template("progress/student.html", page=student_page(class_id, student_id))


@progress.get("/progress/classes/<int:class_id>/students/<int:student_id>/parents")
def for_parents(class_id: int, student_id: int) -> str:
    """Show where a student stands, in words for parents."""
    return render_template("progress/parents.html", page=parents_page(class_id, student_id))


@progress.get("/progress/classes/<int:class_id>/skills")
def skills(class_id: int) -> str:
    """Show a class's skills: who moves, who is stuck, what to give next."""
    return render_template("progress/skills.html", page=skills_page(class_id))
