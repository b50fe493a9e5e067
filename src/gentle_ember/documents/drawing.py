"""A drawing as SVG, PDF and DXF, each at true size from the same geometry."""

from __future__ import annotations

import io
from html import escape

from ezdxf import units
from ezdxf.document import Drawing as Document
from ezdxf.enums import TextEntityAlignment
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas

from gentle_ember.core.stages.fit.marks.drawing import Circle, Drawing, DrawingLayer, Stroke, Text

DASHED = {DrawingLayer.BODY, DrawingLayer.CENTERS}
_STROKE_MM = {DrawingLayer.HOLES: 0.35, DrawingLayer.EDGES: 0.5}


def drawing_svg(one: Drawing) -> str:
    """As SVG whose user unit is a millimeter."""
    wide, high = one.wide * 1e3, one.high * 1e3
    parts = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:g}mm" height="{high:g}mm" '
        f'viewBox="0 0 {wide:g} {high:g}" fill="none" stroke="#26221e" stroke-linecap="round">',
        f"<title>{escape(one.title)}</title>",
    ]
    for shape in one.shapes:
        stroke = _STROKE_MM.get(shape.layer, 0.2)
        dash = ' stroke-dasharray="2 1.2"' if shape.layer in DASHED else ""
        look = f'class="{shape.layer.lower()}" stroke-width="{stroke}"{dash}'
        if isinstance(shape, Stroke):
            parts.append(
                f'<line {look} x1="{_n(shape.x1)}" y1="{_n(one.high - shape.y1)}" '
                f'x2="{_n(shape.x2)}" y2="{_n(one.high - shape.y2)}"/>'
            )
        elif isinstance(shape, Circle):
            parts.append(
                f'<circle {look} cx="{_n(shape.x)}" cy="{_n(one.high - shape.y)}" '
                f'r="{_n(shape.radius)}"/>'
            )
        else:
            parts.append(
                f'<text x="{_n(shape.x)}" y="{_n(one.high - shape.y)}" fill="#26221e" '
                f'stroke="none" font-family="sans-serif" font-size="{_n(shape.height * 1.35)}"'
                f"{_weight(shape)}>{escape(shape.text)}</text>"
            )
    return "".join([*parts, "</svg>"])


def _n(value_m: float) -> str:
    return f"{value_m * 1e3:.4f}".rstrip("0").rstrip(".")


def _weight(shape: Text) -> str:
    middle = ' text-anchor="middle"' if shape.middle else ""
    return middle + (' font-weight="700"' if shape.bold else "")


def drawing_pdf(one: Drawing, *, page: tuple[float, float] | None = None) -> bytes:
    """As PDF, a point being 1/72 in; on a page of another size the drawing stands in its corner.

    Args:
        one: the drawing.
        page: width and height of the page [m]; the drawing's own when None.
    """
    buffer = io.BytesIO()
    wide, high = page or (one.wide, one.high)
    canvas = Canvas(buffer, pagesize=(wide * 1e3 * mm, high * 1e3 * mm), pageCompression=0)
    canvas.setTitle(one.title)
    canvas.setAuthor("Gentle Ember")
    if page:
        canvas.translate(12 * mm, (high - one.high) * 1e3 * mm - 12 * mm)
    for shape in one.shapes:
        canvas.setLineWidth(_STROKE_MM.get(shape.layer, 0.2) * mm)
        canvas.setDash(*((2 * mm, 1.2 * mm) if shape.layer in DASHED else ((),)))
        if isinstance(shape, Stroke):
            canvas.line(*(value * 1e3 * mm for value in (shape.x1, shape.y1, shape.x2, shape.y2)))
        elif isinstance(shape, Circle):
            canvas.circle(*(value * 1e3 * mm for value in (shape.x, shape.y, shape.radius)))
        else:
            font = "Helvetica-Bold" if shape.bold else "Helvetica"
            canvas.setFont(font, shape.height * 1.35e3 * mm)
            text = shape.text.replace("⌀", "Ø")
            draw = canvas.drawCentredString if shape.middle else canvas.drawString
            draw(shape.x * 1e3 * mm, shape.y * 1e3 * mm, text)
    canvas.showPage()
    canvas.save()
    return buffer.getvalue()


def drawing_dxf(one: Drawing) -> str:
    """As DXF R2010 in millimeters, a layer for each kind of line."""
    document = Document.new("R2010")
    document.units = units.MM
    for layer in DrawingLayer:
        document.layers.add(layer.value)
    space = document.modelspace()
    for shape in one.shapes:
        on = {"layer": shape.layer.value}
        if isinstance(shape, Stroke):
            ends = ((shape.x1 * 1e3, shape.y1 * 1e3), (shape.x2 * 1e3, shape.y2 * 1e3))
            space.add_line(*ends, dxfattribs=on)
        elif isinstance(shape, Circle):
            space.add_circle((shape.x * 1e3, shape.y * 1e3), shape.radius * 1e3, dxfattribs=on)
        else:
            align = TextEntityAlignment.MIDDLE_CENTER if shape.middle else TextEntityAlignment.LEFT
            space.add_text(shape.text, height=shape.height * 1e3, dxfattribs=on).set_placement(
                (shape.x * 1e3, shape.y * 1e3), align=align
            )
    text = io.StringIO()
    document.write(text)
    return text.getvalue()
