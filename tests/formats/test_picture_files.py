"""A picture's own files, spots and schemes carried along, the scenes that ship."""

import csv
import json
from io import BytesIO, StringIO

import numpy as np
import pypdfium2
import pytest
from PIL import Image

from noema.core.bench.task import Amount
from noema.core.colour.difference import ciede2000
from noema.core.errors import Refused
from noema.core.logbook.entry import Entry, EntryKind
from noema.core.pictures.colours import colours_of_picture
from noema.core.pictures.values import value_plan
from noema.formats.photo_file import open_photo
from noema.formats.picture_files import colours_from, made_files, png_bytes, rgb_from
from noema.formats.scenes import SCENES, scene_bytes
from noema.formats.spots import CarriedColour, colours_csv, colours_json
from noema.formats.wall_pdf import values_pdf, wall_pdf
from noema.stand_ins.colour_file import Space, icc_profile
from tools.draw_scenes import SCENES as DRAWN


def test_small_and_shown_are_the_picture():
    picture = open_photo(scene_bytes("harbour"))
    made = made_files(picture)
    kept, fresh = colours_from(made.small), colours_of_picture(picture)
    assert ciede2000(kept.lab, fresh.lab).max() < 0.5
    assert rgb_from(made.shown).shape == (made.height_px, made.width_px, 3)
    assert max(rgb_from(made.shown, 200).shape) == 200


def test_a_profile_is_honoured_and_colours_beyond_srgb_are_kept():
    red = np.tile(np.array([250, 10, 10], dtype=np.uint8), (420, 420, 1))
    out = BytesIO()
    Image.fromarray(red).save(out, "PNG", icc_profile=icc_profile(Space.DISPLAY_P3))
    with_profile, without = open_photo(out.getvalue()), open_photo(png_bytes(red))
    wide, narrow = (colours_of_picture(one).lab[5, 5] for one in (with_profile, without))
    assert np.hypot(*wide[1:]) > np.hypot(*narrow[1:]) + 5.0
    shown = rgb_from(made_files(with_profile).shown)
    assert shown[10, 10, 0] >= 250


@pytest.mark.parametrize("name", SCENES)
def test_a_scene_is_what_its_program_draws(name):
    """Near enough: other versions of the drawing library smooth a little otherwise."""
    assert set(DRAWN) == set(SCENES)
    kept, drawn = (rgb_from(data).astype(int) for data in (scene_bytes(name), DRAWN[name]()))
    assert kept.shape == drawn.shape == (720, 960, 3)
    assert np.abs(kept - drawn).mean() < 1.0


def test_another_scene_is_refused():
    with pytest.raises(Refused, match="one of the scenes"):
        scene_bytes("../harbour")


SPOT = CarriedColour(
    entry=Entry(
        kind=EntryKind.SPOT,
        title="=the red boat",
        lab=(45.0, 40.0, 30.0),
        parts=(Amount(tube="rose", volume=3.0),),
        words="red",
    ),
    place=(0.25, 0.8),
)


def test_spots_come_out_as_rows_and_as_json():
    (row,) = csv.DictReader(StringIO(colours_csv([SPOT])))
    assert (row["x"], row["L"], row["parts"]) == ("0.2500", "45.000", "rose:3")
    assert not row["name"].startswith("=")
    told = json.loads(colours_json([SPOT], {"picture": "Harbour"}))
    assert told["format"] == "noema-spots/1"
    assert told["colours"][0]["place"] == [0.25, 0.8]
    assert told["colours"][0]["hvc"]["value"] == pytest.approx(4.4, abs=0.1)


def words_of(pdf):
    document = pypdfium2.PdfDocument(pdf)
    return "".join(page.get_textpage().get_text_range() for page in document)


def test_the_wall_s_sheet_names_every_spot_with_its_parts():
    shown = made_files(open_photo(scene_bytes("bird"))).shown
    text = words_of(wall_pdf("Bird", shown, [SPOT], {"rose": "rose"}))
    assert "Bird" in text
    assert "the red boat" in text
    assert "rose" in text


def test_a_value_plan_is_printed_with_its_shares():
    picture = open_photo(scene_bytes("rooftops"))
    plan = value_plan(colours_of_picture(picture), 3)
    grey = png_bytes(np.zeros((300, 400), dtype=np.uint8))
    text = words_of(values_pdf("Rooftops", grey, plan))
    for one in plan.shares:
        assert f"{one.share:.0%}" in text
