"""Asked against painted.

Each cell's drift from its expected step is judged only as far as the reader's own doubt allows;
findings say what a whole sheet shows. What a teacher decides is kept apart and always wins.
"""
