"""Somebody's own account: name, e-mail, password, codes, and where they are in."""
