"""What was kept before keys had revisions comes through their migration, and back."""

import json

from alembic import command
from sqlalchemy import text

from noema.core.coaching.advice import Advice
from noema.core.coaching.moves import Move
from noema.core.exercises.media import Medium
from noema.core.words.advice import advice_words
from noema.core.words.moves import move_words
from noema.formats.facts_json import facts_from_json
from noema.store.engine import migrations_of, open_engine

ASSIGNED = """
INSERT INTO school (id, name) VALUES (1, 'Old School');
INSERT INTO teacher (id, school_id, email, display_name, password_hash)
    VALUES (1, 1, 'old@school.example', 'Ms Old', 'x');
INSERT INTO school_class (id, school_id, name, unit_starts_on, unit_weeks, join_code)
    VALUES (1, 1, 'Year 8', '2026-09-07', 12, 'BCDFGH');
INSERT INTO student (id, school_id, display_name) VALUES (1, 1, 'Ada');
INSERT INTO assignment (id, class_id, stem, kind, title, options, tolerance, medium, level, key,
    paper, due_week, assigned_by)
    VALUES (1, 1, 'AAAA', 'value-scale', 'Value scale', '{"steps": 5}',
    '{"hue": null, "value": 0.2, "chroma": null}', 'acrylic', 'advanced', 'own-ends', 'a4', 3, 1),
    (2, 1, 'BBBB', 'value-scale', 'Never handed in', '{}',
    '{"hue": null, "value": 0.7, "chroma": null}', 'acrylic', 'beginner', 'named', 'a4', 4, 1);
INSERT INTO sheet (id, assignment_id, student_id, attempt, number, code, layout)
    VALUES (1, 1, 1, 1, 1, 'AAAA-01', '{}');
INSERT INTO pile (id, school_id, teacher_id) VALUES (1, 1, 1);
INSERT INTO photograph (id, school_id, pile_id, sheet_id, sha256, size_bytes, megapixels,
    original_name, state) VALUES (1, 1, 1, 1, repeat('a', 64), 1, 1, 'a.jpg', 'read');
INSERT INTO reading (id, photograph_id, sheet_id, reader, body) VALUES (1, 1, 1, 'r', '{}');
"""
JUDGED = """
INSERT INTO judgement (reading_id, judge, key, level, body, tally, sentence, moves) VALUES
(1, 'noema-judge/5', :key, :level, :body, '{}', :sentence, :moves)
"""
BODIES = (
    ("named", "beginner", 0.7),
    ("own-ends 3f2a1", "advanced", 0.2),
)
SAID, MOVED = "Step 3 is too dark.", "Lay another thin wash over it when it is dry."


def test_every_key_something_was_judged_by_becomes_a_revision(empty_url):
    engine = open_engine(empty_url)
    with engine.connect() as connection:
        settings = migrations_of(connection)
        command.upgrade(settings, "0008")
        connection.execute(text(ASSIGNED))
        for key, level, value in BODIES:
            body = {"cells": [{"tolerance_value": value, "hue": None, "chroma": None}]}
            connection.execute(
                text(JUDGED),
                {
                    "key": key,
                    "level": level,
                    "body": json.dumps(body),
                    "sentence": SAID,
                    "moves": json.dumps({"c3": MOVED}),
                },
            )
        command.upgrade(settings, "0009")
        held = connection.execute(
            text(
                "SELECT a.id, k.number, k.key, k.level, k.value_tolerance, a.revision "
                "FROM key_revision k JOIN assignment a ON a.id = k.assignment_id ORDER BY 1, 2"
            )
        ).all()
        judged = "SELECT k.number FROM judgement j JOIN key_revision k ON k.id = j.revision_id"
        numbers = connection.scalars(text(f"{judged} ORDER BY j.id")).all()
        command.upgrade(settings, "0027")  # from later on there is no way back
        facts = connection.execute(text("SELECT advice, moves FROM judgement LIMIT 1")).one()
        command.downgrade(settings, "0008")
        sentence = connection.scalar(text("SELECT sentence FROM judgement LIMIT 1"))
        back = connection.execute(
            text("SELECT key, level, (tolerance->>'value')::float FROM assignment ORDER BY id")
        ).all()
        connection.commit()
    engine.dispose()
    assert [tuple(row) for row in held] == [
        (1, 1, "named", "beginner", 0.7, 2),
        (1, 2, "own-ends", "advanced", 0.2, 2),
        (2, 1, "named", "beginner", 0.7, 1),
    ]
    assert numbers == [1, 2]
    advice = facts_from_json(Advice, facts.advice)
    move = facts_from_json(Move, facts.moves["c3"])
    assert advice_words(advice, Medium.ACRYLIC) == sentence == SAID
    assert move_words(move, Medium.ACRYLIC, {}) == MOVED
    assert [tuple(row) for row in back] == [
        ("own-ends", "advanced", 0.2),
        ("named", "beginner", 0.7),
    ]
