"""Trying one sheet before any class is made."""
