"""Text for spreadsheets."""

_FORMULA = ("=", "+", "-", "@", "\t", "\r")


def plain_text(text: str) -> str:
    """Keep a spreadsheet from taking text for a formula.

    >>> plain_text("=1+1"), plain_text("Ada")
    ("'=1+1", 'Ada')
    """
    return f"'{text}" if text[:1] in _FORMULA else text


def as_written(text: str) -> str:
    """Give text back that `plain_text` kept from being a formula.

    >>> as_written("'=1+1"), as_written("'Ada")
    ('=1+1', "'Ada")
    """
    return text[1:] if text[:1] == "'" and text[1:2] in _FORMULA else text
