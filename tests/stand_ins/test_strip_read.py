"""Paint in a strip's window is read by the real reader, by its marks or outlined by hand."""

import numpy as np

from noema.core.colour.difference import ciede2000
from noema.core.photo.by_hand import Outline, box_of, read_by_hand
from noema.core.photo.read import read_photo
from noema.core.photo.stages.identify import identify
from noema.core.photo.straighten import to_picture
from noema.core.sheet.strip import strip_layout
from noema.formats.photo_file import open_photo
from noema.stand_ins.held import photograph_of_dab


def photographed(lab, seed):
    taken = photograph_of_dab(lab, seed=seed, preset="class", size_px=(2016, 1512))
    return open_photo(taken.jpeg), taken.truth[0].lab


def test_a_colour_in_the_window_is_read_within_its_own_doubt():
    picture, truth = photographed((52.0, 30.0, 35.0), 4)
    reading = read_photo(picture, strip_layout()).reading
    assert reading.found
    (cell,) = reading.cells
    assert ciede2000(cell.lab, truth) < 3.0 * cell.sigma
    assert ciede2000(cell.lab, truth) < 8.0


def test_the_window_can_be_outlined_by_hand():
    picture, truth = photographed((60.0, -15.0, 20.0), 5)
    layout = strip_layout()
    (sheet,) = identify(picture).sheets
    assert sheet.code == layout.qr_text
    size = np.array(picture.rgb.shape[1::-1], dtype=float)
    corners = to_picture(sheet.flat, box_of(layout)) / size
    outline = Outline(corners=tuple(map(tuple, corners.tolist())))
    (cell,) = read_by_hand(picture, outline, layout).reading.cells
    assert ciede2000(cell.lab, truth) < 8.0
