"""What is asked of a student: which steps, expected by which key, held to which tolerance.

An exercise is data chosen by a teacher. From it come the expected colour of every cell and, later,
the sheet it is painted on. Nothing here knows about paper or pixels.
"""
