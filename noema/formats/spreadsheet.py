"""Text for spreadsheets."""


def plain_text(text: str) -> str:
    """Keep a spreadsheet from taking text for a formula.

    >>> plain_text("=1+1"), plain_text("Ada")
    ("'=1+1", 'Ada')
    """
    return f"'{text}" if text[:1] in ("=", "+", "-", "@", "\t") else text
