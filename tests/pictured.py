"""Pictures with spots in the hands of a school's people."""

from dataclasses import replace
from functools import cache
from io import BytesIO

import numpy as np
from numpy.random import default_rng
from PIL import Image

from noema.actions.paint_from import NewSpot, point, take_picture_in, take_scene
from noema.actions.practise import BenchPaints
from noema.actions.read_held import hold, read_held
from noema.core.colour.names import USUAL_HUES
from noema.core.colour.spectra import reflectance_to_lab
from noema.core.colour.srgb import lab_to_hex
from noema.core.pictures.spots import USUAL_RADIUS, SpotPart
from noema.core.pigments.shelf import builtin_set
from noema.core.sheet.strip import draw_strip
from noema.formats.picture_files import png_bytes
from noema.formats.sheet_pdf import sheets_pdf
from noema.stand_ins.camera import expose
from noema.stand_ins.held import photograph_of_dab
from noema.stand_ins.optics import draw_optics
from noema.stand_ins.printer import load_paper, print_page
from noema.stand_ins.shot import aim
from noema.store.pictures import PictureOwner, picture_by_id

TUBES = BenchPaints(paints=builtin_set("split-six"))
RED_BOAT = (0.3, 0.8)  # where it lies in the harbour


def owner_of(school, student_id=None):
    return PictureOwner(school_id=school.id, class_id=school.class_id, student_id=student_id)


def pictured(session, school, student_id):
    """A picture with two spots, another picture, paint held against a spot; by their names."""
    owner = owner_of(school, student_id)
    picture_id = take_scene(session, school.files, owner, "harbour")
    spare = take_picture_in(session, school.files, owner, "Plain", plain_picture())
    spots = [pointed(session, school, picture_id, owner, place) for place in (RED_BOAT, (0.3, 0.6))]
    held_id = hold(session, school.files, owner, spots[0], plain_picture())
    return {
        "picture_id": picture_id,
        "spare_picture_id": spare,
        "spot_id": spots[0],
        "spare_spot_id": spots[1],
        "held_id": held_id,
        "look": "grey",
    }


def pointed(session, school, picture_id, owner, place, name="boat", part=SpotPart.WHOLE):
    """A spot somebody pointed at."""
    x, y = place
    new = NewSpot(name=name, part=part, x=x, y=y, radius=USUAL_RADIUS)
    picture = picture_by_id(session, picture_id)
    return point(session, school.files, picture, owner, new, TUBES, USUAL_HUES)


def plain_picture(lab=(55.0, 20.0, 25.0)):
    """A picture all of one colour, with a lighter border so that it isn't flat."""
    fill = lab_to_hex([lab])[0]
    rgb = np.full((420, 500, 3), 240, dtype=np.uint8)
    rgb[20:-20, 20:-20] = [int(fill[n : n + 2], 16) for n in (1, 3, 5)]
    return png_bytes(rgb)


@cache
def dab(lab, seed=4):
    """A photograph of paint in the window of a strip, and its true colour."""
    taken = photograph_of_dab(lab, seed=seed, size_px=(2016, 1512))
    return taken.jpeg, taken.truth[0].lab


@cache
def beside_a_strip():
    """A photograph of a field of one colour with a strip under it, and the colour."""
    rng = default_rng(3)
    optics = draw_optics(rng, "class")
    pdf = sheets_pdf([draw_strip()], "")
    strip = print_page(pdf, 0, load_paper(rng, 1.0), 5.0, optics)
    # Some smooth spectrum: much red and yellow, little blue.
    spectrum = np.interp(np.linspace(0, 1, 31), [0, 0.35, 0.65, 1], [0.1, 0.2, 0.55, 0.6])
    field = np.tile(optics.seen(spectrum[None])[0].astype(np.float32), (600, strip.shape[1], 1))
    both = np.concatenate([field, strip])
    shot = replace(aim("class", rng), tilt=0.0, turn=0.0, orientation=1, glare=0.0, exposure=0.6)
    jpeg, _ = expose(both, shot, (1800, 1800), rng)
    return jpeg, tuple(reflectance_to_lab(spectrum).tolist())


def as_taken(photo):
    """Only what lies beside the strip, as the camera wrote it."""
    image = Image.open(BytesIO(photo))
    return png_bytes(np.asarray(image)[: image.height // 2])


def reads_all_held(school, *held_ids):
    """The worker reads photographs of paint."""
    for held_id in held_ids:
        with school.sessions.begin() as session:
            read_held(session, school.files, held_id)
