"""Build the typefaces that paper falls back to; `make fonts` calls it, and what it builds is kept.

Names come in every script. Where the typeface of the pages has no letter, one of these has it: Noto
Sans (SIL Open Font License 1.1), from npm packages, as TrueType files that PDFs embed. Of Chinese,
Japanese and Korean only the letters that names and common words need are taken: those of GB 2312,
of the first plane of Big5, of JIS X 0208 and of KS X 1001.
"""

import shutil
import subprocess
import tarfile
import tempfile
from collections.abc import Iterable, Iterator
from pathlib import Path

from fontTools.fontBuilder import FontBuilder
from fontTools.pens.filterPen import DecomposingFilterPen
from fontTools.pens.ttGlyphPen import TTGlyphPen

from tools.joined_fonts import joined, opened

FONTS = Path(__file__).parents[1] / "noema/formats/fonts"
WEB = Path(__file__).parents[1] / "noema/web/static/fonts"
VERSION = "5.3.0"
PLAIN = ("latin", "latin-ext", "vietnamese", "greek", "greek-ext", "cyrillic", "cyrillic-ext")
ON_PAGES = ("greek", "cyrillic")
WEIGHTS = {"regular": 400, "bold": 700}
SCRIPTS = (
    *("arabic", "hebrew", "devanagari", "bengali", "gurmukhi", "gujarati", "tamil", "telugu"),
    *("sinhala", "thai", "khmer", "myanmar", "georgian", "armenian", "ethiopic"),
)
_LEADS, _TRAILS = range(0xA1, 0xFF), range(0xA1, 0xFF)
_BIG5_LEADS = range(0xA4, 0xC7)


def files_of(package: str, scratch: Path) -> Path:
    """Fetch a package's fonts."""
    subprocess.run(
        ["npm", "pack", "--silent", f"@fontsource/{package}@{VERSION}"],
        cwd=scratch,
        check=True,
        stdout=subprocess.DEVNULL,
    )
    folder = scratch / package
    with tarfile.open(scratch / f"fontsource-{package}-{VERSION}.tgz") as packed:
        packed.extractall(folder, filter="data")
    return folder / "package"


def plain(folder: Path, name: str, weight: int) -> None:
    """Join the parts for Latin, Greek and Cyrillic, which need no shaping."""
    files = [folder / f"files/noto-sans-{subset}-{weight}-normal.woff2" for subset in PLAIN]
    font = joined(files)
    font["head"].created = font["head"].modified = 0
    font.save(FONTS / f"noto-{name}.ttf")


def of_script(folder: Path, script: str) -> None:
    """Unpack a script's letters, with what joins and places them."""
    font = opened(folder / f"files/noto-sans-{script}-{script}-400-normal.woff2")
    font.save(FONTS / f"noto-{script}.ttf")


def in_codec(codec: str, leads: Iterable[int]) -> Iterator[str]:
    """Give the letters a double-byte standard has under some leading bytes."""
    for lead in leads:
        for trail in (*range(0x40, 0x7F), *_TRAILS):
            try:
                yield bytes((lead, trail)).decode(codec)
            except UnicodeDecodeError:
                continue


def wanted() -> dict[str, set[int]]:
    """Give the letters to take, by package."""
    han = {*in_codec("gb2312", _LEADS), *in_codec("big5", _BIG5_LEADS), *in_codec("euc_jp", _LEADS)}
    hangul = set(in_codec("euc_kr", _LEADS))
    return {
        "noto-sans-sc": {ord(one) for one in han if len(one) == 1 and ord(one) >= 0x3000},
        "noto-sans-kr": {ord(one) for one in hangul if 0xAC00 <= ord(one) <= 0xD7A3},
    }


def east_asian(scratch: Path) -> None:
    """Take single letters out of the many parts such fonts come in."""
    glyphs, widths, letters = {}, {}, {}
    for package, points in wanted().items():
        for file in sorted(files_of(package, scratch).glob("files/*-400-normal.woff2")):
            font = opened(file)
            drawn, sizes = font.getGlyphSet(), font["hmtx"]
            for point, name in font.getBestCmap().items():
                if point in points and point not in letters:
                    letters[point] = f"u{point:05X}"
                    glyphs[letters[point]] = outline(drawn, name)
                    widths[letters[point]] = sizes[name]
            height = font["hhea"].ascent, font["hhea"].descent
            em = font["head"].unitsPerEm
    builder = FontBuilder(em, isTTF=True)
    order = [".notdef", *sorted(glyphs)]
    builder.setupGlyphOrder(order)
    builder.setupCharacterMap(letters)
    builder.setupGlyf({".notdef": TTGlyphPen(None).glyph(), **glyphs})
    builder.setupHorizontalMetrics({".notdef": (em // 2, 0), **widths})
    builder.setupHorizontalHeader(ascent=height[0], descent=height[1])
    builder.setupNameTable({"familyName": "Noto Sans East Asian", "styleName": "Regular"})
    builder.setupOS2(sTypoAscender=height[0], sTypoDescender=height[1])
    builder.setupPost(keepGlyphNames=False)
    builder.font.recalcTimestamp = False
    builder.font["head"].created = builder.font["head"].modified = 0
    builder.save(FONTS / "noto-east-asian.ttf")


def outline(drawn: object, name: str) -> object:
    """Copy a glyph's outline, whatever it is put together from."""
    pen = TTGlyphPen(None)
    drawn[name].draw(DecomposingFilterPen(pen, drawn))
    return pen.glyph()


def main() -> None:
    with tempfile.TemporaryDirectory() as name:
        scratch = Path(name)
        folder = files_of("noto-sans", scratch)
        for style, weight in WEIGHTS.items():
            plain(folder, style, weight)
            for subset in ON_PAGES:
                file = f"noto-sans-{subset}-{weight}-normal.woff2"
                shutil.copyfile(folder / "files" / file, WEB / file)
        shutil.copyfile(folder / "LICENSE", FONTS / "LICENSE-noto")
        shutil.copyfile(folder / "LICENSE", WEB / "LICENSE-noto")
        for script in SCRIPTS:
            of_script(files_of(f"noto-sans-{script}", scratch), script)
        east_asian(scratch)


if __name__ == "__main__":
    main()
