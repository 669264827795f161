"""Where an exercise stands on paper, in millimetres from the page's top left corner, y down.

A layout is all a reader needs: marks, code, reference patches and cells. A drawing is what a
printer needs: shapes and words without any file format. Both come from the same plan of the page.
"""
