"""One verb a file: check, then do.

An action gets a session whose transaction the caller owns, and the devices it needs; it refuses in
a sentence or changes the records. Views, jobs and commands all go through these.
"""
