"""The panel label: where every handle stands in each state, and the safe orders between them."""

from __future__ import annotations

from collections.abc import Sequence
from itertools import pairwise
from textwrap import wrap

from gentle_ember.core.physics.sequences import Sequence as Order
from gentle_ember.core.stages.fit.marks.drawing import Drawing, DrawingLayer, Stroke, Text
from gentle_ember.core.stages.method.networks import PASSING, StatesSection

ROW_M, LETTER_M, HEAD_M, EDGE_M = 0.0060, 0.0026, 0.0042, 0.003
LETTER_WIDE = 0.72
"""Width of a letter over its height, on the wide side."""
LEFT_OUT = frozenset(("engine",))
ALWAYS = (
    "Outdoors only, away from openings: carbon monoxide kills and has no smell.",
    "Gas smelled: shut the source, walk away, let the wind through.",
    "To change over: store after the one fuel, then start on the other.",
)
LINE_M, WRAP, MOST_ACROSS, INDENT_M = 0.0045, 38, 3, 0.0028
"""Height of a line of text, letters in one, orders beside each other, what a line goes on at."""


def label(title: str, states: StatesSection, orders: Sequence[Order]) -> Drawing:
    """The label at true size, as large as what stands on it.

    Args:
        title: what it is on.
        states: the fuel states of the set as it will be.
        orders: the safe orders its handles are moved in.
    """
    columns = [one for one in states.columns if one.state.key not in PASSING]
    rows = [one for one in states.controls if one.key not in LEFT_OUT]
    names = [control.name for control in rows]
    cells = [[str(column.state.positions[control.key]) for control in rows] for column in columns]
    heads = [column.state.name for column in columns]
    first = _wide(names) + 2 * EDGE_M
    widths = [
        _wide([head, *column]) + 2 * EDGE_M for head, column in zip(heads, cells, strict=True)
    ]
    blocks = _blocks(orders)
    span = _wide([line for block in blocks for line in block]) + 2 * EDGE_M
    across = max(1, min(len(blocks), MOST_ACROSS))
    deep = [
        max(len(block) for block in blocks[at : at + across])
        for at in range(0, len(blocks), across)
    ]
    wide = max(first + sum(widths), span * across, _wide([*ALWAYS, title]) * 1.05) + 2 * EDGE_M
    lines = len(ALWAYS) + sum(deep) + len(deep)
    high = 2 * EDGE_M + 0.009 + ROW_M * (len(rows) + 1) + 0.004 + LINE_M * (lines + 0.4)
    shapes: list[Stroke | Text] = [*_frame(wide, high)]
    y = high - EDGE_M - 0.006
    shapes.append(Text(EDGE_M, y, title, HEAD_M, bold=True))
    y -= 0.003
    top = y
    x = EDGE_M + first
    for head, width in zip(heads, widths, strict=True):
        shapes.append(Text(x + EDGE_M, y - 0.0042, head, LETTER_M, bold=True))
        x += width
    right = x
    for at, control in enumerate(rows):
        y = top - ROW_M * (at + 1)
        shapes.append(Stroke(EDGE_M, y, right, y, DrawingLayer.RULER))
        shapes.append(Text(EDGE_M + 0.001, y - 0.0042, control.name, LETTER_M))
        x = EDGE_M + first
        for column, width in zip(cells, widths, strict=True):
            shapes.append(Text(x + EDGE_M, y - 0.0042, column[at], LETTER_M))
            x += width
    y = top - ROW_M * (len(rows) + 1)
    shapes.append(Stroke(EDGE_M, y, right, y, DrawingLayer.RULER))
    for at, text in enumerate(ALWAYS):
        shapes.append(Text(EDGE_M + 0.001, y - LINE_M * (at + 1), text, LETTER_M, bold=at == 0))
    y -= LINE_M * (len(ALWAYS) + 1.4)
    for at, block in enumerate(blocks):
        row, place = divmod(at, across)
        top = y - LINE_M * (sum(deep[:row]) + row)
        for number, text in enumerate(block):
            x = EDGE_M + 0.001 + place * span + (INDENT_M if text.startswith(" ") else 0.0)
            line = top - LINE_M * number
            shapes.append(Text(x, line, text.strip(), LETTER_M, bold=number == 0))
    return Drawing(title, wide, high, tuple(shapes))


def _blocks(orders: Sequence[Order]) -> list[list[str]]:
    """Each order as a heading and its numbered moves; changing over goes by way of storing."""
    return [
        [one.name, *(line for at, text in enumerate(one.lines) for line in _numbered(at + 1, text))]
        for one in orders
        if not one.why_not and not one.key.startswith("over.")
    ]


def _numbered(number: int, text: str) -> list[str]:
    first, *rest = wrap(text.rstrip("."), WRAP)
    return [f"{number}  {first}", *(f"    {line}" for line in rest)]


def _wide(texts: list[str]) -> float:
    return max(len(text) for text in texts) * LETTER_M * LETTER_WIDE


def _frame(wide: float, high: float) -> list[Stroke]:
    corners = ((0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high), (0.0, 0.0))
    return [Stroke(*one, *other, DrawingLayer.EDGES) for one, other in pairwise(corners)]
