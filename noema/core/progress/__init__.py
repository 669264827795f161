"""Attempts in, what has changed between them out, with doubt carried through."""
