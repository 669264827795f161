"""Bytes to core values and back: sheets as PDF and SVG, photographs, rosters, JSON.

Nothing here decides anything about the job; a format that can't be read is refused in a sentence.
"""
