"""Every name can be set on paper, whatever its script."""

from io import BytesIO

import pypdfium2
import pytest

from noema.core.sheet.drawing import Anchor, Drawing, Words
from noema.formats.paper_pages import TEXT, paragraph, report_bytes
from noema.formats.sheet_pdf import sheets_pdf
from noema.formats.typefaces import BOLD, REGULAR, letters_of, marked_up, runs_of

NAMES = {
    "Latin": "Zoë Łukasz Ñandú Šárka Ağaoğlu",
    "Vietnamese": "Nguyễn Thị Hương",
    "Greek": "Ελένη Παπαδοπούλου",
    "Cyrillic": "Олександра Їжакевич",
    "Arabic": "محمد علي",
    "Persian": "می\u200cنا",
    "Hebrew": "דוד כהן",
    "Devanagari": "अनन्या शर्मा",
    "Bengali": "রহিম উদ্দিন",
    "Gurmukhi": "ਗੁਰਪ੍ਰੀਤ",
    "Gujarati": "દીપિકા",
    "Tamil": "சுந்தர்",
    "Telugu": "సీత",
    "Sinhala": "ගුණ",
    "Thai": "สมชาย",
    "Khmer": "សុខា",
    "Myanmar": "အောင်",
    "Georgian": "ნინო",
    "Armenian": "Արմեն",
    "Ethiopic": "አበበ",
    "Chinese": "李小龙 王芳 陳麗",
    "Japanese": "山田太郎 さくら マリ",
    "Korean": "김민준",
}
BLANK = (255, 255, 255)


def page_of(pdf: bytes):
    return pypdfium2.PdfDocument(BytesIO(pdf))[0].render(scale=3).to_pil().convert("RGB")


def drawn(words: str, *, anchor: Anchor = Anchor.START, bold: bool = False):
    item = Words(at_mm=(60.0, 20.0), text=words, size_mm=8.0, bold=bold, anchor=anchor)
    sheet = Drawing(width_mm=120.0, height_mm=30.0, items=(item,), title="a name")
    return page_of(sheets_pdf([sheet], "a name"))


def ink(picture) -> list[int]:
    """Give the columns that hold ink."""
    wide, high = picture.size
    pixels = picture.load()
    return [x for x in range(wide) if any(pixels[x, y] != BLANK for y in range(high))]


@pytest.mark.parametrize("words", NAMES.values(), ids=NAMES)
@pytest.mark.parametrize("font", [REGULAR, BOLD])
def test_some_typeface_has_every_letter_of_a_name(words, font):
    runs = runs_of(words, font)
    assert "".join(run.text for run in runs) == words
    assert all(ord(letter) in letters_of(run.font) for run in runs for letter in run.text)
    assert len({run.font for run in runs}) <= 2  # its own, and for blanks the page's


@pytest.mark.parametrize("words", NAMES.values(), ids=NAMES)
def test_a_name_is_no_row_of_empty_boxes(words):
    """Two names of as many letters look different: neither is drawn as what is missing."""
    letters = [one for one in words if one.isalpha()]
    assert drawn(letters[0]).tobytes() != drawn("\U0010fffd").tobytes()
    assert drawn(letters[0]).tobytes() != drawn(letters[-1]).tobytes() or letters[0] == letters[-1]


@pytest.mark.parametrize("words", ["Zoë Abbott", NAMES["Greek"], NAMES["Arabic"], NAMES["Thai"]])
def test_words_lie_where_they_are_anchored(words):
    middle = 60.0 / 120.0 * drawn(words).size[0]
    start, end = (ink(drawn(words, anchor=one)) for one in (Anchor.START, Anchor.END))
    assert middle - 6 <= start[0]
    assert end[-1] <= middle + 6
    centred = ink(drawn(words, anchor=Anchor.MIDDLE))
    assert abs((centred[0] + centred[-1]) / 2.0 - middle) < 8


def test_arabic_is_joined_and_runs_from_the_right():
    """Joined letters are narrower than single ones; the first letter stands rightmost."""
    together = ink(drawn("محمد"))
    apart = ink(drawn("م ح م د"))
    assert together[-1] - together[0] < apart[-1] - apart[0]
    # Alif is a bar: where it comes first it stands at the right, and rises highest there.
    word = drawn("ابب")
    wide = ink(word)
    pixels = word.load()
    tops = {x: min(y for y in range(word.size[1]) if pixels[x, y] != BLANK) for x in wide}
    assert min(tops, key=tops.__getitem__) > (wide[0] + wide[-1]) / 2.0


def test_a_page_of_latin_holds_no_other_typeface():
    plain = sheets_pdf([], "none")
    assert b"Noto" not in plain
    latin = report_bytes([paragraph("Zoë Łukasz", TEXT)], "latin")
    greek = report_bytes([paragraph("Ελένη", TEXT)], "greek")
    assert (b"Noto" in latin, b"Noto" in greek) == (False, True)


def test_a_paragraph_sets_each_word_in_one_typeface():
    assert marked_up("Zoë & Ann", REGULAR) == ("Zoë &amp; Ann", False)
    marked, shapes = marked_up("Name: محمد علي, 9B", REGULAR)
    assert shapes
    # In a paragraph words go from left to right: those of a script that doesn't are turned round.
    assert "علي محمد" in marked


def test_a_plain_name_is_set_whole_in_one_typeface():
    assert [run.font for run in runs_of("Nguyễn", REGULAR)] == ["Noto"]
    assert [run.font for run in runs_of("Ελένη", BOLD)] == ["Noto-Bold"]
