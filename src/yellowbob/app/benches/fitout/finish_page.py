"""The coat schedule as masses, a film corrected by weighing."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QMenu

from yellowbob.app.benches.fitout.page import Page
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button, drop
from yellowbob.app.widgets.fields import Choice
from yellowbob.app.widgets.measures import Units
from yellowbob.app.widgets.tables import fill, table
from yellowbob.design.model import Coat, replaced
from yellowbob.ground.quantities import show
from yellowbob.shelf.shipped import coats
from yellowbob.study import of
from yellowbob.weights.finish import film_from_weighings, of_coat

BODY_ALONE, EVERY_PIECE = "the body", "every piece"
REGIONS = ("all", "back", "belly")


class FinishPage(Page):
    """Coats in the order of the work; the selected one's figures in fields."""

    def __init__(self, session: Session) -> None:
        super().__init__("Finish", session, "Film is the dry film of one coat. Soak is what open wood drinks once.")
        self.at = 0
        self.before: float | None = None
        self.line.addWidget(drop("Add a coat", self._fill_add))
        self.line.addWidget(button("Remove", self._remove, "Remove the selected coat"))
        self.table = table("Coats", ("coat", "mass", "film", "area", "laid on"))
        self.table.currentCellChanged.connect(self._choose)
        self.count = self.field("Number of coats", "number", lambda v: self._set(coats=round(v)), 0)
        self.film = self.field("Dry film of one coat", "length", lambda v: self._set(film_mm=v), 3)
        self.soak = self.field("Soaked in, g/m²", "number", lambda v: self._set(soak_g_m2=v), 1)
        self.region = Choice("Region", list(REGIONS), lambda t: self._set(region=t))
        self.over = Choice("Laid on", [], self._over)
        self.start = self.field("Only aft of", "length", lambda v: self._set(from_mm=v), 1)
        self.end = self.field("Only forward of", "length", lambda v: self._set(to_mm=v), 1)
        self.whole = button("Whole length", lambda: self._set(from_mm=None, to_mm=None), "Cover the whole length")
        self.lighter = self.field("Weighed before this coat", "mass", self._weighed_before, 3)
        self.heavier = self.field("Weighed after, dry", "mass", self._weighed_after, 3)
        rows = (("Coats", self.count), ("Film", self.film), ("Soak, g/m²", self.soak), ("Region", self.region),
                ("Laid on", self.over), ("Aft of", self.start), ("Forward of", self.end), ("Length", self.whole),
                ("Before", self.lighter), ("After, dry", self.heavier))  # fmt: skip
        for number, (words, widget) in enumerate(rows):
            self.put(number % 4, number // 4, words, widget)
        self.grid.setColumnStretch(6, 1)
        self.column.addWidget(self.said)
        self.column.addStretch(1)
        self.beside.addWidget(self.table)
        session.changed.connect(self.refresh)
        self.refresh()

    def coat(self) -> Coat | None:
        listed = self.session.design.coats
        return listed[self.at] if 0 <= self.at < len(listed) else None

    def refresh(self) -> None:
        if self.session.fault:
            return
        length, mass = Units.of("length"), Units.of("mass")
        rows = []
        for coat, skin in zip(self.session.design.coats, of.coated(self.session.study), strict=True):
            where = "" if coat.region == "all" else f", {coat.region}"
            where += "" if coat.from_mm is None and coat.to_mm is None else ", part of the length"
            area, weight = skin.area_mm2, of_coat(skin, coat).mass_g
            times = f"{coat.coats} × " if coat.coats > 1 else ""
            film = f"{times}{show(coat.film_mm, length, 3)} {length}"
            rows.append([coat.name, f"{show(weight, mass)} {mass}", film, f"{area / 100:.1f} cm²",
                         f"{self._laid_on(coat)}{where}"])  # fmt: skip
        self.table.blockSignals(True)
        fill(self.table, rows)
        self.at = min(self.at, max(0, len(rows) - 1))
        self.table.selectRow(self.at)
        self.table.blockSignals(False)
        chosen = self.coat()
        for field in (self.count, self.film, self.soak, self.start, self.end, self.lighter, self.heavier, self.region,
                      self.over):  # fmt: skip
            field.setEnabled(chosen is not None)
        if chosen is not None:
            self.count.show_value(float(chosen.coats))
            self.film.show_value(chosen.film_mm)
            self.soak.show_value(chosen.soak_g_m2)
            self.region.show_text(chosen.region)
            self._show_over(chosen)
            self.start.show_value(chosen.from_mm)
            self.end.show_value(chosen.to_mm)

    def _choose(self, row: int, *_: int) -> None:
        if row >= 0 and row != self.at:
            self.at, self.before = row, None
            self.refresh()

    def _set(self, **changes: Any) -> None:
        coat = self.coat()
        if coat is not None:
            listed = list(self.session.design.coats)
            listed[self.at] = replaced(coat, **changes)
            self.session.edit(self.session.design.but(coats=tuple(listed)), f"coat: {coat.name}")

    def _show_over(self, coat: Coat) -> None:
        """What it is laid on: the body, every piece, one piece, or those that the file names."""
        names = [p.name for p in self.session.design.pieces]
        self.over.clear()
        self.over.addItems([BODY_ALONE, *([EVERY_PIECE, *names[1:]] if len(names) > 1 else [])])
        self.over.show_text(self._laid_on(coat))

    def _laid_on(self, coat: Coat) -> str:
        names = {p.name for p in self.session.design.pieces}
        said = ", ".join(coat.over) if coat.over else BODY_ALONE
        return EVERY_PIECE if len(names) > 1 and set(coat.over) == names else said

    def _over(self, words: str) -> None:
        names = tuple(p.name for p in self.session.design.pieces)
        if words in (BODY_ALONE, EVERY_PIECE):
            self._set(over=() if words == BODY_ALONE else names)
        elif words in names:
            self._set(over=(words,))

    def _fill_add(self, menu: QMenu) -> None:
        for name in coats():
            menu.addAction(name).triggered.connect(lambda _=False, n=name: self.add(n))

    def add(self, name: str) -> None:
        stock = coats()[name]
        new = Coat(
            name=name, stock=name, film_mm=stock.film_mm, density_g_ml=stock.density_g_ml, soak_g_m2=stock.soak_g_m2
        )
        self.at = len(self.session.design.coats)
        self.session.edit(self.session.design.but(coats=(*self.session.design.coats, new)), f"add {name}")

    def _remove(self) -> None:
        listed = list(self.session.design.coats)
        if self.coat() is not None:
            gone = listed.pop(self.at)
            self.session.edit(self.session.design.but(coats=tuple(listed)), f"remove {gone.name}")

    def _weighed_before(self, value: float) -> None:
        self.before = value
        self.say("Now weigh it after the coat, dry.")

    def _weighed_after(self, value: float) -> None:
        """The film that the two weighings say goes into the coat, and onto the own shelf for the next one."""
        coat = self.coat()
        if coat is None:
            return
        if self.before is None:
            self.say("Put in the mass before this coat first.", wrong=True)
            return
        area = of.coated(self.session.study)[self.at].area_mm2
        film = film_from_weighings(
            self.before, value - coat.soak_g_m2 * area * 1e-6, area, coat.density_g_ml, coat.coats
        )
        self._set(film_mm=film)
        stock = coats().get(coat.stock)
        if stock is not None:
            from yellowbob.shelf.own import OwnShelf

            own = stock.model_copy(update={"film_mm": film, "source": "own, weighed before and after"})
            told = f"One coat is {film:.3f} mm dry; kept for this one, and on your shelf for the next."
            self.session.aside("putting the film on the shelf", lambda: OwnShelf().put([own]), lambda _: self.say(told),
                               self._refused)  # fmt: skip
        else:
            self.say(f"One coat is {film:.3f} mm dry; kept for this one.")
