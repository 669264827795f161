"""Collects everything that is said to people into a catalogue; `make catalogue` calls it.

The catalogue (`noema/core/translations/messages.pot`) is what a translator starts from. A language
is a folder beside it: what people translated (`messages.po`), and what it is said by
(`messages.mo`). Messages that are new come into every language untranslated; `make catalogue` says
how many there are.

Beside them stands a pseudo-language, made of the catalogue by putting accents on every word, a
third more length, and brackets round each message: what shows without brackets isn't translated,
what is cut off would be in a longer language.
"""

import io
import json
import re
import tomllib
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path

from babel.messages.catalog import Catalog, Message
from babel.messages.extract import extract_from_dir
from babel.messages.mofile import write_mo
from babel.messages.pofile import read_po, write_po

from noema.core.colour.names import USUAL_HUES
from noema.core.language import ENGLISH, LANGUAGES
from noema.core.pigments.shelf import SETS, TUBES

ROOT = Path(__file__).parents[1]
FOLDER = ROOT / "noema/core/translations"
TEMPLATE = FOLDER / "messages.pot"
SCRIPTS = FOLDER / "scripts.json"
PSEUDO = FOLDER / "en_001/LC_MESSAGES/messages.mo"
OTHERS = tuple(code for code in LANGUAGES if code != ENGLISH)
METHODS = [
    ("**/*.min.js", "ignore"),
    ("**.js", "javascript"),
    ("**.py", "python"),
    ("**.html", "jinja2"),
]
KEYWORDS = {"gettext": None, "ngettext": (1, 2), "_": None, "N_": None, "NN_": (1, 2)}
OPTIONS = {"**.html": {"trimmed": "true", "silent": "false"}}
ALWAYS = datetime(2026, 1, 1, tzinfo=UTC)
"""The date in its head, so that the file changes only when messages do."""

OPENS, CLOSES = "⟦", "⟧"

_ACCENTED = str.maketrans("aeiouyAEIOUYcnsz", "àéîöûýÀÉÎÖÛÝçñšž")
_KEPT = re.compile(r"(%\(\w+\)s|%%|\{\w+\}|<kbd>\w+</kbd>|<[^>]*>|&\w+;)")
_LONGER, _FILLER = 3, "~"


def collected() -> Catalog:
    """Collect all messages of the package."""
    catalogue = Catalog(project="Noema", charset="utf-8")
    found = extract_from_dir(ROOT / "noema", METHODS, OPTIONS, KEYWORDS, strip_comment_tags=True)
    for file, _, message, _, context in found:
        catalogue.add(message, locations=[(f"noema/{file}", 0)], context=context)
    for words, file in (*sentences(), *terms()):
        catalogue.add(words, locations=[(file, 0)])
    return catalogue


def sentences() -> Iterator[tuple[str, str]]:
    """Give what is said to each audience, which stands in a data file, and the file."""
    file = "noema/core/words/data/sentences.toml"
    for ways in tomllib.loads((ROOT / file).read_text(encoding="utf-8")).values():
        for said in ways.values():
            yield from ((words, file) for words in said)


def terms() -> Iterator[tuple[str, str]]:
    """Give the names of hues and of what is on the shelf, which stand in tables, and the file."""
    names = "noema/core/colour/data/hue_names.csv"
    yield from ((str(hue.name), names) for hue in USUAL_HUES.hues(24))
    shelf = "noema/core/pigments/data"
    for tube in TUBES.values():
        yield from ((str(words), f"{shelf}/tubes.toml") for words in (tube.label, tube.short))
    for one in SETS.values():
        yield from ((str(words), f"{shelf}/sets.toml") for words in (one.label, one.says))


def translated_by(code: str) -> Path:
    """Give the file that a language's translators write in."""
    return FOLDER / code / "LC_MESSAGES/messages.po"


def spoken_by(code: str) -> Path:
    """Give the file that a language is said by."""
    return translated_by(code).with_suffix(".mo")


def translation(code: str, catalogue: Catalog) -> Catalog:
    """Bring what people translated together with the messages there are now."""
    kept = Catalog(locale=code, charset="utf-8", project="Noema", fuzzy=False)
    if translated_by(code).is_file():
        with translated_by(code).open("rb") as file:
            kept = read_po(file, locale=code, charset="utf-8")
    kept.update(catalogue, no_fuzzy_matching=True, update_creation_date=False)
    kept.obsolete.clear()
    kept.header_comment = f"# Noema, {LANGUAGES[code].name}"
    kept.project, kept.version, kept.msgid_bugs_address = "Noema", "1", ""
    kept.last_translator, kept.language_team = "", code
    kept.creation_date = kept.revision_date = ALWAYS
    return kept


def untranslated(spoken: Catalog) -> list[Message]:
    """List the messages that a language doesn't say yet."""
    return [
        message
        for message in spoken
        if message.id
        and not all(message.string if isinstance(message.string, tuple) else (message.string,))
    ]


def template_of(catalogue: Catalog) -> bytes:
    """Write a catalogue in an order and with places that change only when messages do."""
    written = io.BytesIO()
    write_po(written, catalogue, sort_output=True, omit_header=True, include_lineno=False)
    return written.getvalue()


def translation_file_of(spoken: Catalog) -> bytes:
    """Write what people translated, in the catalogue's order, without places."""
    written = io.BytesIO()
    write_po(written, spoken, sort_output=True, no_location=True, ignore_obsolete=True)
    return written.getvalue()


def compiled(spoken: Catalog) -> bytes:
    """Give what a language is said by."""
    written = io.BytesIO()
    write_mo(written, spoken)
    return written.getvalue()


def scripts_of(catalogue: Catalog) -> str:
    """List what scripts say, which a page has to bring along."""
    said = [
        message.id
        for message in catalogue
        if any(file.endswith(".js") for file, _ in message.locations)
    ]
    return json.dumps(sorted(said), ensure_ascii=False, indent=1) + "\n"


def pseudo(message: str) -> str:
    """Say a message in the pseudo-language; what is filled in stays.

    >>> pseudo("Keep <b>%(count)s</b> sheets")
    '⟦Kéép <b>%(count)s</b> šhééts~~~~⟧'
    """
    parts = _KEPT.split(message)
    said = "".join(part if n % 2 else part.translate(_ACCENTED) for n, part in enumerate(parts))
    letters = sum(len(part) for part in parts[::2])
    return f"{OPENS}{said}{_FILLER * (letters // _LONGER)}{CLOSES}"


def pseudo_of(catalogue: Catalog) -> bytes:
    """Give the pseudo-language's compiled catalogue."""
    spoken = Catalog(locale="en_001", charset="utf-8", creation_date=ALWAYS, revision_date=ALWAYS)
    for message in catalogue:
        if not message.id:
            continue
        plural = isinstance(message.id, tuple)
        said = tuple(map(pseudo, message.id)) if plural else pseudo(message.id)
        spoken.add(message.id, said, context=message.context)
    return compiled(spoken)


def main() -> None:
    catalogue = collected()
    PSEUDO.parent.mkdir(parents=True, exist_ok=True)
    SCRIPTS.write_text(scripts_of(catalogue), encoding="utf-8")
    TEMPLATE.write_bytes(template_of(catalogue))
    PSEUDO.write_bytes(pseudo_of(catalogue))
    print(f"{len(catalogue)} messages")
    for code in OTHERS:
        spoken = translation(code, catalogue)
        translated_by(code).parent.mkdir(parents=True, exist_ok=True)
        translated_by(code).write_bytes(translation_file_of(spoken))
        spoken_by(code).write_bytes(compiled(spoken))
        for message in untranslated(spoken):
            print(f"{code} doesn't say: {message.id}")


if __name__ == "__main__":
    main()
