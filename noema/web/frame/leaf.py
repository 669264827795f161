"""A leaf of a long list on a page: what was looked for, and where the next leaf is."""

from dataclasses import dataclass

from flask import request, url_for

from noema.store.leaves import Leaf, LeafWanted, Shown

MOST_CLASSES = 24
"""Classes on a leaf of their list."""

_MOST_WORDS = 60


@dataclass(frozen=True, kw_only=True)
class LeafPlace:
    """Round a leaf: finding in the list, and going on to the next."""

    words: str  # that were looked for
    is_part: bool  # the list is longer than what is shown
    following: str  # address of the next leaf; empty on the last


def wanted_leaf(most: int) -> LeafWanted:
    """Give the leaf that the address asks for."""
    words = request.args.get("find", "")[:_MOST_WORDS].strip()
    return LeafWanted(words=words, after=request.args.get("after", type=int), most=most)


def leaf_place(wanted: LeafWanted, leaf: Leaf[Shown]) -> LeafPlace:
    """Say where a leaf lies in its list."""
    following = ""
    if leaf.last is not None and request.endpoint is not None:
        kept = {"find": wanted.words} if wanted.words else {}
        args = {**(request.view_args or {}), **kept, "after": leaf.last}
        following = url_for(request.endpoint, **args)
    return LeafPlace(
        words=wanted.words,
        is_part=leaf.goes_on or wanted.after is not None or bool(wanted.words),
        following=following,
    )
