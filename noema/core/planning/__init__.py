"""Lessons and what they need: how long a sheet takes to paint and to dry.

Numbers are usual ones for a class that has done the like before, kept in tables a school can read.
"""
