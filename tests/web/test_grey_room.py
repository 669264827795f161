"""No colour in the interface but paint."""

import re
from pathlib import Path

import pytest

WEB = Path(__file__).parents[2] / "noema/web"
CSS = (WEB / "static/css/noema.css").read_text(encoding="utf-8")

NAMED_GREY = {"transparent", "currentcolor", "inherit", "black", "white"}
COLOUR_NAMES = (
    "red|green|blue|yellow|orange|purple|violet|pink|brown|cyan|magenta|teal|navy|olive|maroon|"
    "lime|aqua|fuchsia|gold|indigo|crimson|coral|salmon|khaki|plum|orchid|tomato|tan|beige"
)


def grey(hexadecimal: str) -> bool:
    digits = hexadecimal[:3] if len(hexadecimal) in (3, 4) else hexadecimal[:6]
    size = len(digits) // 3
    return len({digits[n * size : (n + 1) * size] for n in range(3)}) == 1


def test_every_hexadecimal_colour_is_grey():
    colours = re.findall(r"#([0-9a-fA-F]{3,8})\b", CSS)
    assert len(colours) > 20
    assert [colour for colour in colours if not grey(colour)] == []


def test_every_colour_function_is_grey():
    for red, green, blue in re.findall(r"rgba?\(\s*([\d.]+)[\s,]+([\d.]+)[\s,]+([\d.]+)", CSS):
        assert red == green == blue
    assert not re.search(r"\b(hsl|hwb|oklch|lch|lab|oklab)a?\(\s*[\d.]", CSS)


def test_no_colour_is_named():
    assert re.findall(rf":\s*({COLOUR_NAMES})\b", CSS) == []
    assert "accent-color:#333" in CSS  # a browser's own accent would be blue


@pytest.mark.parametrize(
    "file", sorted([*WEB.rglob("*.html"), *WEB.rglob("*.svg")]), ids=lambda f: f.name
)
def test_templates_bring_no_colour_of_their_own(file):
    text = file.read_text(encoding="utf-8")
    assert [c for c in re.findall(r"#([0-9a-fA-F]{6})\b", text) if not grey(c)] == []
    assert not re.search(rf'(fill|stroke)="({COLOUR_NAMES})"', text)
    assert len(text.splitlines()) <= 100
