"""Findings in, the next thing to do out: one kind sentence in a painter's words."""
