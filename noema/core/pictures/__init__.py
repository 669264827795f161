"""A picture as a painter looks at it: how dark and light it is, its spots, and which tubes do.

Colours are those of the file, as its profile says: a picture is what somebody wants to paint, not a
measurement of paint.
"""
