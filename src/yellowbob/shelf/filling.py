"""A design read with the shelf at hand: what names its `stock` and gives no mass has it from there."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from yellowbob.design.files import read_design
from yellowbob.design.model import Design, Fitting
from yellowbob.ground.errors import BadInput
from yellowbob.shelf.fitting import fitting_from, hook_from
from yellowbob.shelf.items import Hook
from yellowbob.shelf.shipped import ballast_stock, coats, hardware, hooks, taken


def opened(path: Path | str) -> Design:
    """Read a `.ybob` file, with what its rows leave out of their `stock` taken from the shelf. Raises BadDesign, BadInput."""
    return read_design(path, filled)


def fitting_of(stock: str, at_mm: tuple[float, float, float], name: str) -> Fitting:
    """A hook or a piece of hardware by its name on the shelf. Raises BadInput naming near ones."""
    every: dict[str, Any] = {**hooks(), **hardware()}
    item = taken(every, stock)
    return hook_from(item, at_mm, name) if isinstance(item, Hook) else fitting_from(item, at_mm, name)


def filled(data: dict[str, Any]) -> dict[str, Any]:
    """A design's JSON in which a fitting without `mass_g`, a weight without its size and a coat without `film_mm` are
    completed from their `stock`. Given figures stay. Raises BadInput for a stock that is not on the shelf."""
    rows = {"fittings": _fitting, "ballast": _ballast, "coats": _coat}
    return data | {
        key: [_row(complete, row, f"{key}[{number}]") for number, row in enumerate(data[key])]
        for key, complete in rows.items() if isinstance(data.get(key), list)
    }  # fmt: skip


def _row(complete: Callable[[dict[str, Any]], dict[str, Any]], row: Any, where: str) -> Any:
    if not isinstance(row, dict) or not isinstance(row.get("stock"), str) or not row["stock"]:
        return row
    try:
        return complete(row)
    except BadInput as error:
        raise BadInput(f"{where}.stock: {error}") from None


def _fitting(row: dict[str, Any]) -> dict[str, Any]:
    at = row.get("at_mm")
    if "mass_g" in row or not isinstance(at, list) or len(at) != 3:
        return row
    made = fitting_of(row["stock"], (0.0, 0.0, 0.0), "from the shelf")
    known = made.model_dump(mode="json", exclude_defaults=True)
    return {**known, **row}


def _ballast(row: dict[str, Any]) -> dict[str, Any]:
    weight = row.get("weight")
    if not isinstance(weight, dict):
        return row
    sized = {"shot": "mass_g", "slug": "diameter_mm"}.get(weight.get("form", ""))
    if sized is None or sized in weight:
        return row
    stock = taken(ballast_stock(), row["stock"])
    if stock.form != weight["form"]:
        raise BadInput(f"'{stock.name}' is {stock.form} on the shelf, not {weight['form']}")
    known = {"material": stock.material, "density_g_ml": stock.density_g_ml, sized: getattr(stock, sized)}
    return {**row, "weight": {**known, **weight}}


def _coat(row: dict[str, Any]) -> dict[str, Any]:
    if "film_mm" in row:
        return row
    stock = taken(coats(), row["stock"])
    known = {"film_mm": stock.film_mm, "density_g_ml": stock.density_g_ml, "soak_g_m2": stock.soak_g_m2}
    return {**known, **row}
