"""The kinds of exercise, one file each; a file dropped in here is a new kind.

Each holds a `KIND`: what may be chosen, and how the expected colour of every cell is worked out
from a set of paints. None of them knows about paper.
"""
