"""The paint shelf, what a set can do, the explorer, own tubes and names of hues, by plain forms."""

import re
from dataclasses import replace
from io import BytesIO

import numpy as np
import orjson
import pytest

from noema.assemble_pages import web_application_of
from noema.core.colour.names import USUAL_HUES
from noema.core.pigments.drying import Binder
from noema.core.pigments.mix import mix_labs
from noema.core.pigments.reach import reach
from noema.core.pigments.shelf import SETS, TUBES, builtin_set
from noema.web.drawings.wheel import MIDDLE, make_wheel, point

WHITE = TUBES["titanium-white"]


def typed(*labs: np.ndarray) -> dict[str, str]:
    """A form for a tube like scarlet with a masstone and tints."""
    form = {"label": "Our red", "base": "scarlet", "do": "fit"}
    mixes = (("", ""), ("titanium-white", "10"), ("titanium-white", "50"))
    for n, (tube, parts) in enumerate(mixes):
        lab = " ".join(f"{v:.2f}" for v in labs[n]) if n < len(labs) else ""
        form |= {f"with_{n}": tube, f"parts_{n}": parts, f"lab_{n}": lab}
    return form


def scarlet_swatches() -> tuple[np.ndarray, np.ndarray]:
    return mix_labs([TUBES["scarlet"]], [1]) + [1, 2, -1], mix_labs(
        [TUBES["scarlet"], WHITE], [1, 10]
    )


def test_every_built_in_set_has_its_pages(app, school):
    client = school.teacher(app)
    for name in (*SETS, "split-six+black", "all"):
        for page in ("", "/reach", "/explore", "/file"):
            assert client.get(f"/paints/sets/{name}{page}").status_code == 200, (name, page)


def test_the_shelf_shows_sets_leans_strength_and_cautions(app, school):
    client = school.teacher(app)
    assert "Split primaries" in client.get("/paints").text
    page = client.get("/paints/sets/split-six").text
    assert re.search(r"ultramarine.*?blue, leans to violet.*?\(warm\)", page, re.S)
    assert re.search(r"phthalo blue.*?blue, leans to green.*?\(cool\).*?overwhelming", page, re.S)
    everything = client.get("/paints/sets/all").text
    assert "Holds cobalt: never spray" in everything
    assert "Read the label" in everything


def test_a_set_is_put_together_changed_and_taken_away(app, school):
    client = school.teacher(app)
    form = {"name": "Room 3", "medium": "gouache", "tube": ["rose", "cyan", "titanium-white"]}
    made = client.post("/paints/new", data=form)
    page = client.get(made.location).text
    assert "gouache, 3 tubes" in page
    assert "Room 3" in client.get("/paints").text
    client.post(f"{made.location}/change", data={**form, "tube": ["rose", "orange"]})
    assert "gouache, 2 tubes" in client.get(made.location).text
    client.post(f"{made.location}/remove")
    assert client.get(made.location).status_code == 404


@pytest.mark.parametrize(
    ("form", "reason"),
    [
        ({"name": "", "tube": ["rose"]}, "Give the set a name"),
        ({"name": "x", "tube": []}, "Choose 1 to 24 tubes"),
        ({"name": "x", "tube": ["mauve"]}, "on the shelf any more"),
        ({"name": "Taken", "tube": ["rose"]}, "already a set called"),
        ({"name": "x", "tube": ["rose"], "medium": "mud"}, "medium isn"),
    ],
)
def test_a_set_that_makes_no_sense_is_refused(app, school, form, reason):
    school.puts_together("Taken", "rose")
    answer = school.teacher(app).post("/paints/new", data=form)
    assert answer.status_code == 422
    assert reason in answer.text


def test_a_built_in_set_is_copied_not_changed(app, school):
    client = school.teacher(app)
    answer = client.post("/paints/sets/split-six/change", data={"name": "x", "tube": ["rose"]})
    assert answer.status_code == 422
    assert "make a copy" in answer.text
    copy = client.get("/paints/new?base=split-six&name=Ours").text
    assert copy.count(" checked") == 7


def test_what_these_paints_can_do_says_dead_zones_partners_and_darks(app, school):
    page = school.teacher(app).get("/paints/sets/three-traditional/reach").text
    assert re.search(r"These paints can&#39;t give a violet .*leans to orange", page)
    assert re.search(r"warm yellow</td><td>ultramarine", page)
    assert "Darks without black" in page
    assert page.count('<path d="M') > 80


def test_the_wheel_has_yellow_at_the_top_and_never_draws_beyond_reach():
    tubes = builtin_set("three-printers").tubes
    highest = reach(tubes)
    wheel = make_wheel(tubes, highest, USUAL_HUES)
    assert point(25.0, 10.0)[0] == pytest.approx(MIDDLE)
    assert point(25.0, 10.0)[1] < MIDDLE
    assert point(13.0, 10.0)[0] > MIDDLE  # orange comes next, clockwise
    assert point(None, 0.0) == (MIDDLE, MIDDLE)
    assert len(wheel.tubes) == 3
    corners = [
        tuple(map(float, c.split())) for c in re.findall(r"[ML]([\d.]+ [\d.]+)", wheel.patches)
    ]
    furthest = max(np.hypot(x - MIDDLE, y - MIDDLE) for x, y in corners)
    assert furthest <= highest.max() * 17.0 + 1.0


def bridge_in(page):
    return page.split('class="bridge"')[1].split("</svg>")[0]


@pytest.mark.parametrize("binder", [Binder.ACRYLIC, Binder.WATERCOLOUR])
@pytest.mark.parametrize("down", ["none", "some", "much"])
def test_the_explorer_walks_from_tube_to_tube(app, school, binder, down):
    ref = school.puts_together("Room", "scarlet", "phthalo-blue", "lemon-yellow", binder=binder)
    client = school.teacher(app)
    asked = f"/paints/sets/{ref}/explore?one=scarlet&other=phthalo-blue&down={down}&steps=7"
    dry, wet = client.get(asked).text, client.get(f"{asked}&wet=1").text
    assert bridge_in(dry).count("<rect") == 7
    assert bridge_in(wet).count("<rect") == 14
    assert "eutral at" in dry or "don&#39;t cancel" in dry
    triangle = client.get(f"{asked}&third=lemon-yellow").text
    assert triangle.count("<circle") == 28


def test_a_mix_is_gone_from_and_what_greys_it_is_said(app, school):
    client = school.teacher(app)
    mixed = "one=warm-yellow&one_with=scarlet&one_first=2&one_second=1&other=ultramarine&steps=7"
    page = client.get(f"/paints/sets/split-six/explore?{mixed}").text
    assert bridge_in(page).count("<rect") == 7
    assert "The yellow and scarlet mix is greyed most by" in page
    assert "205 :" not in page
    assert "the mix alone" in " ".join(re.findall(r">([^<]+)</text>", page)).replace("\n", " ")
    for wrong in ("one_first=0", "one_second=-1", "one_first=x"):
        answer = client.get(
            f"/paints/sets/split-six/explore?{mixed}&{wrong}".replace(
                f"{wrong.split('=')[0]}=2&", ""
            ).replace(f"{wrong.split('=')[0]}=1&", "")
        )
        assert answer.status_code == 422


def test_pairs_for_a_hue_stand_side_by_side_the_best_first(app, school):
    client = school.teacher(app)
    page = client.get("/paints/sets/split-six/pairs?hue=violet").text
    chromas = [float(one) for one in re.findall(r'<td class="number">([\d.]+) \w+</td>', page)]
    assert len(chromas) >= 2
    assert chromas == sorted(chromas, reverse=True)
    assert page.index("rose") < page.index("scarlet", page.index("<tbody>"))
    assert "No pair of these tubes" in client.get("/paints/sets/muted-earths/pairs?hue=green").text


def test_the_explorer_asks_for_different_tubes_and_refuses_what_is_not_listed(app, school):
    client = school.teacher(app)
    same = client.get("/paints/sets/split-six/explore?one=rose&other=rose")
    assert "Choose different tubes" in same.text
    for wrong in ("one=mauve", "steps=99", "down=lots", "steps=x"):
        assert client.get(f"/paints/sets/split-six/explore?{wrong}").status_code == 422


def test_a_tube_is_tried_kept_used_and_not_lost_while_a_set_holds_it(app, school):
    client = school.teacher(app)
    form = typed(*scarlet_swatches())
    tried = client.post("/paints/tubes/new", data=form).text
    assert "follows the swatches as closely as the eye sees" in tried
    assert "Put Our red on the shelf" in tried
    kept = client.post("/paints/tubes/new", data={**form, "do": "keep"})
    assert kept.location.endswith("/paints/tubes/own-our-red")
    ref = school.puts_together("Room", "own-our-red", "cyan")
    held = client.post("/paints/tubes/own-our-red/remove")
    assert held.status_code == 422
    assert "still holds Our red" in held.text
    exported = orjson.loads(client.get(f"/paints/sets/{ref}/file").data)
    assert exported["tubes"][0]["name"] == "own-our-red"
    client.post(f"/paints/sets/{ref}/remove")
    client.post("/paints/tubes/own-our-red/remove")
    assert client.get("/paints/tubes/own-our-red").status_code == 404


def test_a_measurement_file_fills_the_form(app, school):
    masstone, tint = scarlet_swatches()
    rows = [f"{n},{','.join(f'{v:.2f}' for v in lab)}" for n, lab in (("a", masstone), ("b", tint))]
    file = (BytesIO(("name,L,a,b\n" + "\n".join(rows)).encode()), "meter.csv")
    form = {**typed(), "do": "file", "file": file}
    page = school.teacher(app).post("/paints/tubes/new", data=form).text
    assert f'value="{masstone[0]:.2f}'.rstrip("0") in page
    broken = {**typed(), "do": "file", "file": (BytesIO(b"L,a,b\n1,2,x"), "meter.csv")}
    answer = school.teacher(app).post("/paints/tubes/new", data=broken)
    assert answer.status_code == 422
    assert "line 2: b* is not a number" in answer.text


ODD_SWATCHES = (
    ({"label": ""}, "Give the tube a name"),
    ({"label": "!!"}, "letters or digits"),
    ({"lab_0": "45 60"}, "masstone: type three numbers"),
    ({"lab_0": "", "lab_1": ""}, "1 to 12 swatches"),
    ({"parts_1": "some"}, "isn&#39;t a number of parts"),
    ({"base": "mauve"}, "no built-in tube"),
    ({"do": "file"}, "Choose a measurement file first"),
    ({"do": "read-0"}, "No meter is connected"),
    ({"do": "read-9"}, "No meter is connected"),
    ({"label": "Taken", "do": "keep"}, "already a tube called"),
)


def test_a_swatch_that_makes_no_sense_is_refused_and_nothing_typed_is_lost(app, school):
    school.swatches("Taken")
    client = school.teacher(app)
    for change, reason in ODD_SWATCHES:
        form = {**typed(*scarlet_swatches()), **change}
        answer = client.post("/paints/tubes/new", data=form)
        assert answer.status_code == 422, change
        assert reason in answer.text, change
        assert 'value="50"' in answer.text, change


def test_the_stand_in_meter_measures_what_is_held_under_it(school, sessions, settings):
    app = web_application_of(replace(settings, meter="stand-in"), sessions)
    app.config["WTF_CSRF_ENABLED"] = False
    client = school.teacher(app)
    form = typed()
    for line in ("read-0", "read-1"):
        page = client.post("/paints/tubes/new", data={**form, "do": line}).text
        for n in range(3):
            form[f"lab_{n}"] = re.search(rf'name="lab_{n}" value="([^"]*)"', page)[1]
    assert form["lab_0"]
    assert form["lab_1"]
    assert form["lab_2"] == ""
    fitted = client.post("/paints/tubes/new", data={**form, "do": "fit"}).text
    assert "follows the swatches" in fitted


def test_a_school_names_hues_and_says_which_blue_is_warm(app, school):
    client = school.teacher(app)
    form = {hue.name: f"{hue.hue100:g}" for hue in USUAL_HUES.twelve}
    client.post("/paints/hues", data={**form, "blue": "69", "warm_blue": "green"})
    page = client.get("/paints/sets/split-six").text
    assert re.search(r"phthalo blue.*?blue, leans to green.*?\(warm\)", page, re.S) is None
    cerulean = client.get("/paints/sets/all").text
    assert re.search(r"cerulean.*?blue, leans to green.*?\(warm\)", cerulean, re.S)
    refused = client.post("/paints/hues", data={**form, "blue": "90"})
    assert refused.status_code == 422
    assert "wheel order" in refused.text
    assert 'value="90"' in refused.text
    assert client.post("/paints/hues", data={**form, "red": "deep"}).status_code == 422
    client.post("/paints/hues", data={"usual": "1"})
    assert 'value="75.5"' in client.get("/paints/hues").text


def test_every_exercise_is_shown_before_it_is_assigned(app, school):
    client = school.teacher(app)
    for kind in ("colour-wheel", "mixing-grid"):
        whole = client.get(f"/paints/sets/split-six+black/exercises?kind={kind}")
        part = client.get(f"/paints/sets/split-six+black/exercises/asked?kind={kind}").text
        assert whole.status_code == 200, kind
        assert part in whole.text, kind
        assert part.count("<polygon") >= 3, kind
        assert "Can these paints do it?" in part, kind
        key = client.get(f"/paints/sets/split-six+black/exercises/key.pdf?kind={kind}")
        assert key.data.startswith(b"%PDF"), kind


def test_an_exercise_says_what_these_paints_cannot_do_or_why_it_cannot_be(app, school):
    client = school.teacher(app)
    ask = "/paints/sets/three-traditional/exercises/asked"
    assert "can&#39;t give a clean green" in client.get(f"{ask}?kind=colour-wheel").text
    refused = client.get(f"{ask}?kind=colour-wheel&hues=24&rings=shade")
    assert refused.status_code == 200
    assert "under 12 mm" in refused.text
    assert "3 to 11 steps" in client.get(f"{ask}?kind=tint-ladder&steps=99").text
    assert client.get(f"{ask}?kind=finger-painting").status_code == 422
    assert client.get(f"{ask}?kind=tint-ladder&steps=many").status_code == 200
    key = client.get("/paints/sets/split-six/exercises/key.pdf?kind=tint-ladder&steps=0")
    assert key.status_code == 422
