"""Pixels in, cell colours with their doubt out.

In order: find the marks, straighten the page, even out the light from blank paper, bring the
greys onto the reference strip, take each cell's colour. This is the one place for OpenCV. A number
that can't be trusted is flagged or given a wide sigma: a confident wrong number is the worst
result.
"""
