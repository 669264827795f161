"""A school as the first release kept it."""

FIRST_RELEASE = """
INSERT INTO school (id, name) VALUES (1, 'Old School');
INSERT INTO teacher (id, school_id, email, display_name, password_hash)
    VALUES (1, 1, 'old@school.example', 'Ms Old', 'x'), (2, 1, 'two@school.example', 'Mr Two', 'x');
INSERT INTO school_class (id, school_id, name, unit_starts_on, unit_weeks)
    VALUES (1, 1, 'Year 8', '2026-09-07', 12);
INSERT INTO student (id, school_id, display_name) VALUES (1, 1, 'Ada'), (2, 1, 'Ben');
INSERT INTO enrolment (class_id, student_id) VALUES (1, 1), (1, 2);
INSERT INTO assignment (id, class_id, stem, kind, options, medium, level, key,
    paper, due_week, assigned_by)
    VALUES (1, 1, 'AAAA', 'value-scale', '{"steps": 5}', 'acrylic', 'beginner', 'even', 'a4', 3, 1);
INSERT INTO sheet (id, assignment_id, student_id, attempt, number, code, layout)
    VALUES (1, 1, 1, 1, 1, 'AAAA-01', '{}'), (2, 1, 2, 1, 2, 'AAAA-02', '{}');
INSERT INTO pile (id, school_id, teacher_id) VALUES (1, 1, 1);
INSERT INTO photograph (id, school_id, pile_id, sheet_id, sha256, size_bytes, megapixels,
    original_name, state) VALUES (1, 1, 1, 1, repeat('a', 64), 1, 1, 'a.jpg', 'read');
"""
