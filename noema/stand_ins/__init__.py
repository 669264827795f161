"""Pretending: a student who paints, a printer, a camera. Each knows the truth and writes it down.

Everything is drawn from a generator that is handed in, so the same seed gives the same picture.
"""
