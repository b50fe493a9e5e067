"""The catalog: look things up, take it out and bring it in as CSV, dry run first."""

from __future__ import annotations

from fractions import Fraction

from flask import Response, request

from gentle_ember.catalog.rows import CHOSEN, COLUMNS, key_of, label_of, read_row, write_row
from gentle_ember.core.base.errors import EndError
from gentle_ember.core.catalog import Kit, bridge
from gentle_ember.core.job.ends import join
from gentle_ember.core.job.part import End, Part, end
from gentle_ember.core.stages.fuel_path.parts_list import parts_list
from gentle_ember.documents.parts_csv import parts_csv, read_parts
from gentle_ember.store.errors import FieldError, InvalidJobError, NotFoundError
from gentle_ember.web.blueprint import blueprint, sent
from gentle_ember.web.services import services
from gentle_ember.web.views.fuel_path import TemplatesOut, every_template
from gentle_ember.web.views.parts import (
    CatalogOut,
    CatalogPartOut,
    CatalogQuery,
    ColumnOut,
    ColumnsOut,
    EffectOut,
    EndOut,
    EndsOut,
    ImportOut,
    ImportQuery,
    JoinOut,
    JoinQuery,
    KitIn,
    KitOut,
    PartPath,
    PartRowIn,
    PartRowOut,
    PartSavedOut,
    RowFaultOut,
    WayOut,
    WayPartOut,
    facts,
)
from gentle_ember.web.views.parts import kit as kit_out

api = blueprint("catalog", "catalog", "/api/catalog", 404, 422)
LARGEST = 4 << 20


@api.get("", responses={200: CatalogOut})
def find(query: CatalogQuery) -> Response:
    """Parts by class, fuel and words of number, name or maker."""
    words = query.words.casefold().split()
    own = services().parts.own()
    parts = services().catalog.parts.values()

    def matches(part: Part) -> bool:
        text = f"{part.number} {part.name} {part.maker} {part.for_task}".casefold()
        fuels = {str(gas) for gas in part.gases}
        return all(word in text for word in words) and (
            not query.fuel or not fuels or query.fuel in fuels
        )

    named = [part for part in parts if matches(part)]
    kinds: dict[str, int] = {}
    for part in named:
        kinds[str(part.kind)] = kinds.get(str(part.kind), 0) + 1
    found = [part for part in named if not query.kind or part.kind == query.kind]
    return sent(
        CatalogOut(
            total=len(parts),
            found=len(found),
            kinds=kinds,
            parts=[
                CatalogPartOut(
                    part=part,
                    inlet=end(part.inlet).text if part.inlet else "",
                    outlet=end(part.outlet).text if part.outlet else "",
                    own=part.key in own,
                    facts=facts(part),
                )
                for part in found[: query.limit]
            ],
        )
    )


@api.get("/ends", responses={200: EndsOut})
def ends() -> Response:
    """Every end a part of the catalog has, in words."""
    texts = {
        text
        for part in services().catalog.parts.values()
        for text in (part.inlet, part.outlet, *part.ports)
        if text
    }
    found = sorted(((end(text), text) for text in texts), key=lambda one: _by_size(one[0]))
    return sent(EndsOut([EndOut(key=text, text=one.text) for one, text in found]))


def _by_size(one: End) -> tuple[str, float, str]:
    """Ends by system, then size, as a drawer of fittings is sorted."""
    size = one.size.split(" ")[-1]
    whole, _, part = size.partition("-") if "/" in size and "-" in size else ("", "", size)
    try:
        number = float(Fraction(part)) + (float(whole) if whole else 0.0)
    except ValueError:
        number = 0.0
    return str(one.system), number, one.text


@api.get("/join", responses={200: JoinOut})
def joined(query: JoinQuery) -> Response:
    """What connects one end to another: the joint they make, or fittings between."""
    for name, text in (("a", query.a), ("b", query.b)):
        try:
            end(text)
        except EndError as error:
            raise InvalidJobError([FieldError(name, str(error))]) from None
    one, other = end(query.a), end(query.b)
    direct = join(one, other)
    how = direct.sealing
    ways = bridge(services().catalog.shelf, query.a, query.b, query.fuel)
    return sent(
        JoinOut(
            mates=direct.mates,
            why=direct.why,
            seal=how.do if direct.mates else "",
            never=how.never if direct.mates else "",
            ways=[
                WayOut(
                    parts=[
                        WayPartOut(number=part.number, name=part.name, price=part.price,
                         stock=part.stock)
                        for part in way
                    ],
                    price=round(sum(part.price for part in way), 2),
                )
                for way in ways if way
            ],
        )
    )  # fmt: skip


@api.get("/templates", responses={200: TemplatesOut})
def templates() -> Response:
    """Every kind of train there is."""
    return sent(TemplatesOut(every_template()))


@api.post("/kits", responses={201: KitOut})
def make_kit(body: KitIn) -> Response:
    """Keep what a job takes as a kit of this shop's own."""
    stored = services().jobs.get(body.job)
    bill = services().plan(stored).of(parts_list)
    contents = {line.part.key: line.count for line in bill.lines if not line.part.site}
    if not contents:
        raise InvalidJobError([FieldError("job", "This job takes no parts yet.")])
    kit = Kit(
        key=key_of(f"shop-{body.name}"),
        name=body.name,
        maker="this shop",
        fits=f"as for {stored.job.title}",
        price=bill.price,
        contents=contents,
    )
    services().parts.save_kit(kit)
    return sent(kit_out(kit), 201)


@api.get("/columns", responses={200: ColumnsOut})
def columns() -> Response:
    """What a part's row has, to type one in."""
    return sent(
        ColumnsOut(
            columns=[
                ColumnOut(name=name, label=label_of(name), options=list(CHOSEN.get(name, ())))
                for name in COLUMNS
            ]
        )
    )


@api.get("/parts/<key>", responses={200: PartRowOut})
def part_row(path: PartPath) -> Response:
    """A part as its row."""
    part = services().catalog.parts.get(path.key)
    if part is None:
        raise NotFoundError("There is no such part in the catalog.")
    return sent(PartRowOut(cells=write_row(part)))


@api.put("/parts", responses={200: PartSavedOut})
def save_part(body: PartRowIn) -> Response:
    """Keep a part as this shop has it, laid over what ships; or another one of its own.

    Jobs keep the parts they use: nothing changes in them.
    """
    cells = {name: text for name, text in body.cells.items() if text.strip()}
    if unknown := [name for name in cells if name not in COLUMNS]:
        raise InvalidJobError([FieldError(unknown[0], "There is no such column.")])
    found = read_row(dict(cells), 1)
    if isinstance(found, list):
        raise InvalidJobError([FieldError(one.column or "number", one.why) for one in found])
    effect = services().parts.save_one(found, body.was)
    return sent(PartSavedOut(key=found.key, kind=effect.kind, fields=list(effect.fields)))


@api.get("/parts.csv")
def export() -> Response:
    """The whole catalog as this shop has it, in the form it can be brought in again."""
    response = Response(parts_csv(services().catalog.parts.values()), mimetype="text/csv")
    response.headers.set("Content-Disposition", "attachment", filename="parts.csv")
    return response


@api.post("/import", responses={200: ImportOut})
def bring_in(query: ImportQuery) -> Response:
    """Bring in parts and stock from a CSV. Without `accept` it is only tried.

    `accept=all` does it when every row is good, `accept=good` with the good rows alone.
    """
    content = request.get_data()
    if len(content) > LARGEST:
        raise InvalidJobError([FieldError("file", "The file is larger than 4 MB.")])
    read = read_parts(content, services().catalog.parts)
    effects = services().parts.effects(read.parts)
    done = query.accept == "good" or (query.accept == "all" and not read.faults)
    if done:
        services().parts.save(read.parts)
    return sent(
        ImportOut(
            done=done,
            rows=read.rows,
            good=len(read.parts),
            faults=[
                RowFaultOut(line=one.line, column=one.column, why=one.why) for one in read.faults
            ],
            effects=[
                EffectOut(number=one.part.number, name=one.part.name, kind=one.kind,
                 fields=list(one.fields))
                for one in effects if one.kind != "same"
            ],
        )
    )  # fmt: skip
