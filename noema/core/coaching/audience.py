"""Whom a sentence is for."""

from enum import Enum


class Audience(Enum):
    """How a class is spoken to; set for each class."""

    CHILD = "child"  # about twelve
    TEENAGER = "teenager"
    ADULT = "adult"  # a beginner
