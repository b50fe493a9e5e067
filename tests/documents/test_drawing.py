"""Templates leave at true size, the same in every form."""

import io
import re
import xml.etree.ElementTree as ET

import ezdxf
import pytest

from gentle_ember.core.stages.fit.marks.drawing import plate, template
from gentle_ember.documents.drawing import drawing_dxf, drawing_pdf, drawing_svg
from tests.core.test_marks import plan

POINT_M = 0.0254 / 72
SVG = "{http://www.w3.org/2000/svg}"


@pytest.mark.parametrize(("sheet", "size"), [("a4", (0.210, 0.297)), ("letter", (0.2159, 0.2794))])
def test_the_pdf_prints_a_hundred_millimeters_as_a_hundred(sheet, size):
    found = plan()
    content = drawing_pdf(template(found, "x", sheet, {})).decode("latin-1")
    box = re.search(r"/MediaBox \[ 0 0 ([\d.]+) ([\d.]+) \]", content)
    assert [float(one) * POINT_M for one in box.groups()] == pytest.approx(size, abs=1e-4)
    lines = [
        abs(float(x2) - float(x1)) * POINT_M
        for x1, y1, x2, y2 in re.findall(r"([\d.]+) ([\d.]+) m ([\d.]+) ([\d.]+) l", content)
        if y1 == y2
    ]
    for wanted in (0.100, 0.1016, found.shape.across_m):
        assert any(abs(one - wanted) < 2e-5 for one in lines), wanted


def test_svg_and_dxf_hold_the_same_holes_in_millimeters():
    found = plan()
    whole = plate(found, "x")
    root = ET.fromstring(drawing_svg(whole))  # noqa: S314, ours
    assert root.get("width") == "420mm"
    assert root.get("viewBox") == "0 0 420 260"
    drawn = sorted(
        (float(one.get("cx")), 260 - float(one.get("cy")), 2 * float(one.get("r")))
        for one in root.iter(f"{SVG}circle")
    )
    document = ezdxf.read(io.StringIO(drawing_dxf(whole)))
    assert document.units == ezdxf.units.MM
    cut = sorted(
        (one.dxf.center.x, one.dxf.center.y, 2 * one.dxf.radius)
        for one in document.modelspace().query('CIRCLE[layer=="HOLES"]')
    )
    wanted = sorted((h.x_m * 1e3, h.y_m * 1e3, h.diameter_m * 1e3) for h in found.holes)
    for one in (drawn, cut):
        assert [pytest.approx(hole, abs=1e-3) for hole in one] == wanted
    edges = document.modelspace().query('LINE[layer=="EDGES"]')
    assert max(max(one.dxf.start.x, one.dxf.end.x) for one in edges) == pytest.approx(420)
