"""A drawing as SVG in millimetres, for vector programs and for looking at in a browser."""

from xml.sax.saxutils import escape, quoteattr

from noema.core.sheet.drawing import Code, Drawing, Mark, Shape, Words
from noema.core.sheet.layout import Polygon
from noema.formats.modules import black_boxes


def sheet_svg(drawing: Drawing) -> str:
    """Draw one page; one user unit is one millimetre."""
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{drawing.width_mm}mm" '
        f'height="{drawing.height_mm}mm" viewBox="0 0 {drawing.width_mm} {drawing.height_mm}">',
        f"<title>{escape(drawing.title)}</title>",
        f'<rect width="{drawing.width_mm}" height="{drawing.height_mm}" fill="#ffffff"/>',
    ]
    for item in drawing.items:
        match item:
            case Shape():
                parts.append(_shape(item))
            case Words():
                parts.append(_words(item))
            case Mark() | Code():
                path = "".join(_path(black) for black in black_boxes(item))
                parts.append(f'<path fill="#000000" d="{path}"/>')
    return "\n".join([*parts, "</svg>\n"])


def _hex(grey: int | None) -> str:
    return "none" if grey is None else f"#{grey:02x}{grey:02x}{grey:02x}"


def _path(polygon: Polygon) -> str:
    return "M" + "L".join(f"{x:.3f} {y:.3f}" for x, y in polygon) + "Z"


def _fill(shape: Shape) -> str:
    if shape.fill_rgb is None:
        return _hex(shape.fill_grey)
    return "#{:02x}{:02x}{:02x}".format(*shape.fill_rgb)


def _shape(shape: Shape) -> str:
    name = f" id={quoteattr(shape.name)}" if shape.name else ""
    return (
        f'<path{name} d="{_path(shape.polygon_mm)}" fill="{_fill(shape)}" '
        f'stroke="{_hex(shape.line_grey)}" stroke-width="{shape.line_mm}"/>'
    )


def _words(words: Words) -> str:
    weight = "700" if words.bold else "400"
    return (
        f'<text x="{words.at_mm[0]:.3f}" y="{words.at_mm[1]:.3f}" font-size="{words.size_mm}" '
        f'font-family="Atkinson Hyperlegible, sans-serif" font-weight="{weight}" '
        f'text-anchor="{words.anchor.value}" fill="{_hex(words.grey)}">{escape(words.text)}</text>'
    )
