"""Passwords are kept as Argon2id hashes (RFC 9106)."""

from argon2 import PasswordHasher

HASHER = PasswordHasher()
