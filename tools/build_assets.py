"""Rebuild the committed fonts, styles and scripts from npm packages; `make assets` calls it.

Running Noema needs no Node: what is built here is committed. The result depends only on
package-lock.json and the templates, so CI can rebuild and compare.
"""

import shutil
import subprocess
from pathlib import Path

from tools.joined_fonts import joined

ROOT = Path(__file__).parents[1]
STATIC = ROOT / "noema/web/static"
FONT_SOURCE = ROOT / "node_modules/@fontsource/atkinson-hyperlegible"
WEIGHTS = {"regular": 400, "bold": 700}
SUBSETS = ("latin", "latin-ext")


def woff_name(subset: str, weight: int) -> str:
    return f"atkinson-hyperlegible-{subset}-{weight}-normal.woff2"


def copy_web_fonts() -> None:
    for weight in WEIGHTS.values():
        for subset in SUBSETS:
            name = woff_name(subset, weight)
            shutil.copyfile(FONT_SOURCE / "files" / name, STATIC / "fonts" / name)
    shutil.copyfile(FONT_SOURCE / "LICENSE", STATIC / "fonts" / "LICENSE")


def make_print_font(name: str, weight: int) -> None:
    """Join the subsets into the TrueType file that PDFs embed."""
    files = [FONT_SOURCE / "files" / woff_name(subset, weight) for subset in SUBSETS]
    joined(files).save(ROOT / "noema/formats/fonts" / f"atkinson-{name}.ttf")


def build_styles() -> None:
    subprocess.run(
        [
            "npx",
            "--no-install",
            "@tailwindcss/cli",
            "--minify",
            "--input",
            "assets/noema.css",
            "--output",
            str(STATIC / "css/noema.css"),
        ],
        cwd=ROOT,
        check=True,
    )


def main() -> None:
    for folder in ("fonts", "css", "js"):
        (STATIC / folder).mkdir(parents=True, exist_ok=True)
    copy_web_fonts()
    for name, weight in WEIGHTS.items():
        make_print_font(name, weight)
    shutil.copyfile(ROOT / "node_modules/htmx.org/dist/htmx.min.js", STATIC / "js/htmx.min.js")
    # Only tests use it: they hold pages against it.
    shutil.copyfile(ROOT / "node_modules/axe-core/axe.min.js", ROOT / "tests/road/axe.min.js")
    build_styles()


if __name__ == "__main__":
    main()
