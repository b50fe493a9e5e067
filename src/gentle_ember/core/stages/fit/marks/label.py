"""The panel label: where every handle stands in each state, and the order things are done in."""

from __future__ import annotations

from itertools import pairwise

from gentle_ember.core.stages.fit.marks.drawing import Drawing, Layer, Line, Text
from gentle_ember.core.stages.method.networks import StatesSection

ROW_M, LETTER_M, HEAD_M, EDGE_M = 0.0060, 0.0026, 0.0042, 0.003
LETTER_WIDE = 0.72
"""Width of a letter over its height, on the wide side."""
LEFT_OUT = frozenset(("engine",))
PASSING = ("to_gas", "to_gasoline")


def label(title: str, states: StatesSection) -> Drawing:
    """The label at true size, as large as what stands on it.

    Args:
        title: what it is on.
        states: the fuel states of the set as it will be.
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
    orders = order(states)
    wide = max(first + sum(widths), _wide([*orders, title]) * 1.05) + 2 * EDGE_M
    high = 2 * EDGE_M + 0.009 + ROW_M * (len(rows) + 1) + 0.004 + 0.0045 * len(orders)
    shapes: list[Line | Text] = [*_frame(wide, high)]
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
        shapes.append(Line(EDGE_M, y, right, y, Layer.RULER))
        shapes.append(Text(EDGE_M + 0.001, y - 0.0042, control.name, LETTER_M))
        x = EDGE_M + first
        for column, width in zip(cells, widths, strict=True):
            shapes.append(Text(x + EDGE_M, y - 0.0042, column[at], LETTER_M))
            x += width
    y = top - ROW_M * (len(rows) + 1)
    shapes.append(Line(EDGE_M, y, right, y, Layer.RULER))
    for at, text in enumerate(orders):
        shapes.append(Text(EDGE_M + 0.001, y - 0.0045 * (at + 1), text, LETTER_M, bold=at == 0))
    return Drawing(title, wide, high, tuple(shapes))


def order(states: StatesSection) -> list[str]:
    """The order things are done in, in short sentences."""
    gas = [c.state.name for c in states.columns
           if c.state.running and c.state.key not in (*PASSING, "gasoline", "remote")]  # fmt: skip
    lines = ["Outdoors only, away from openings: carbon monoxide."]
    if gas:
        lines += [
            "Coupler on first, source opened last. Then start.",
            "Stop on gas: shut at the source, let it run out, then the switch.",
            "Change over: one fuel shut and run out before the other is opened.",
            "Never two gases. Gas smelled: shut at the source, walk away, air it.",
        ]
    else:
        lines += [
            "One tank at a time. Stop: shut at the tank, then the switch.",
            "Tank vent open before a run, shut for the road.",
        ]
    return lines


def _wide(texts: list[str]) -> float:
    return max(len(text) for text in texts) * LETTER_M * LETTER_WIDE


def _frame(wide: float, high: float) -> list[Line]:
    corners = ((0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high), (0.0, 0.0))
    return [Line(*one, *other, Layer.EDGES) for one, other in pairwise(corners)]
