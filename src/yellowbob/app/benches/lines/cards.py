"""The cards under the Lines drawing: the point and section, cuts and parts, measures."""

from __future__ import annotations

from functools import partial

import numpy as np
from PySide6.QtWidgets import QLabel, QVBoxLayout

from yellowbob.app.benches.lines.view import LinesView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.buttons import button
from yellowbob.app.widgets.cards import Card
from yellowbob.app.widgets.measures import Units
from yellowbob.design.model import replaced
from yellowbob.design.outline_edits import moved_point, outline_of, with_bend
from yellowbob.design.shape import Lofted, SectionStation
from yellowbob.ground.quantities import show
from yellowbob.lines.sections import sections_at
from yellowbob.study import of


class PointCard(Card):
    """The selected point, and the section where the slider stands."""

    def __init__(self, session: Session, view: LinesView) -> None:
        super().__init__("Point", session)
        self.view = view
        self.from_nose = self.quantity("Point, from the nose", "length", partial(self._place, 0), 2)
        self.high = self.quantity("Point, height or half-width", "length", partial(self._place, 1), 2)
        self.bend = button("smooth", self._bend, "How the curve passes the point")
        self.more = button("Add", view.add_after, "Add a point after this one")
        self.less = button("Remove", view.remove_point, "Remove the point")
        self.at = self.quantity("Section, from the nose", "length", self._slide, 1)
        self.back = self.quantity("Fullness of the back", "number", partial(self._section, "back"), 2)
        self.belly = self.quantity("Fullness of the belly", "number", partial(self._section, "belly"), 2)
        self.waist = self.quantity("Height of the widest part, 0 to 1", "number", partial(self._section, "waist"), 2)
        self.clear = button("Clear", self._clear_station, "Remove the section station here")
        for one in (self.more, self.less):
            self.head.addWidget(one)
        self.put(0, 0, "From nose", self.from_nose)
        self.put(1, 0, "Height", self.high)
        self.put(2, 0, "Curve", self.bend)
        self.put(0, 1, "Section at", self.at)
        self.put(1, 1, "Back", self.back)
        self.put(2, 1, "Belly", self.belly)
        self.put(3, 1, "Waist", self.waist)
        self.put(3, 0, "Station", self.clear)
        self.close_up()
        view.picked.connect(self.refresh)
        view.held.connect(self.complain)
        view.slid.connect(lambda _: self.refresh())
        session.changed.connect(self.follow)
        self.refresh()

    def refresh(self) -> None:
        super().refresh()
        point, design = self.view.point, self.session.design
        for field in (self.from_nose, self.high, self.bend, self.more, self.less):
            field.setEnabled(point is not None)
        if point is None:
            self.heading.setText("No point selected")
            self.from_nose.show_value(None)
            self.high.show_value(None)
        else:
            one = outline_of(design, point.curve)[point.index]
            self.heading.setText(f"Point {point.index + 1} of the {point.curve}")
            self.from_nose.show_value(one.at_mm[0])
            self.high.show_value(one.at_mm[1])
            self.bend.setText(one.bend)
        shape = design.shape
        lofted = isinstance(shape, Lofted)
        for field in (self.back, self.belly, self.waist, self.clear):
            field.setEnabled(lofted)
        at = self.view.section_x * shape.length_mm
        self.at.show_value(at)
        if isinstance(shape, Lofted):
            here = sections_at(shape, np.array([at]))
            self.back.show_value(float(here.back[0]))
            self.belly.show_value(float(here.belly[0]))
            waist = np.interp(at, [s.x_mm for s in shape.sections], [s.waist for s in shape.sections])
            self.waist.show_value(float(waist))

    def _place(self, axis: int, value: float) -> None:
        point = self.view.point
        if point is None:
            return
        x, y = outline_of(self.session.design, point.curve)[point.index].at_mm
        done = moved_point(self.session.design, point, value if axis == 0 else x, value if axis == 1 else y)
        self.session.edit(done.design, "place of a point")
        self.complain(done.held)

    def _bend(self) -> None:
        if self.view.point is not None:
            self.session.edit(with_bend(self.session.design, self.view.point), "bend of a point")

    def _slide(self, value: float) -> None:
        self.view.slide_to(value / self.session.design.shape.length_mm)

    def _station(self) -> tuple[Lofted, float, SectionStation] | None:
        """The station at the slider: the one there, or a new one with the figures as they are."""
        shape = self.session.design.shape
        if not isinstance(shape, Lofted):
            return None
        at = self.view.section_x * shape.length_mm
        for station in shape.sections:
            if abs(station.x_mm - at) < 0.02 * shape.length_mm:
                return shape, station.x_mm, station
        here = sections_at(shape, np.array([at]))
        waist = float(np.interp(at, [s.x_mm for s in shape.sections], [s.waist for s in shape.sections]))
        new = SectionStation(x_mm=round(at, 2), back=float(here.back[0]), belly=float(here.belly[0]), waist=waist)
        return shape, new.x_mm, new

    def _put_stations(self, shape: Lofted, stations: list[SectionStation], words: str) -> None:
        design = self.session.design
        ordered = tuple(sorted(stations, key=lambda s: s.x_mm))
        self.session.edit(design.with_body(shape=replaced(shape, sections=ordered)), words)

    def _section(self, field: str, value: float) -> None:
        found = self._station()
        if found is not None:
            shape, x, station = found
            others = [s for s in shape.sections if s.x_mm != x]
            self._put_stations(shape, [*others, replaced(station, **{field: value})], f"section {field}")

    def _clear_station(self) -> None:
        found = self._station()
        if found is not None:
            shape, x, _ = found
            others = [s for s in shape.sections if s.x_mm != x]
            if others:
                self._put_stations(shape, others, "clear a section")
            else:
                self.complain("the last section station stays")


class MeasuresCard(Card):
    """Length, beam, depth, volume and centroid of the solid as it is."""

    def __init__(self, session: Session) -> None:
        super().__init__("The solid", session)
        self.words = QLabel()
        self.words.setAccessibleName("Measures of the solid")
        self.column.addWidget(self.words)
        self.buttons = QVBoxLayout()
        self.column.addLayout(self.buttons)
        self.close_up()
        session.changed.connect(self.follow)
        self.refresh()

    def refresh(self) -> None:
        super().refresh()
        if self.session.fault:
            return
        outer = of.outer(self.session.study)
        length, beam, depth = of.sizes_mm(self.session.study)[0]
        unit = Units.of("length")
        centre = float(outer.moments.centroid_mm[0])
        self.words.setText(
            f"{show(length, unit)} × {show(beam, unit)} × {show(depth, unit)} {unit}\n"
            f"{outer.volume_mm3 / 1000:.2f} mL, {outer.area_mm2 / 100:.1f} cm² outside\n"
            f"centre {show(centre, unit)} {unit} aft"
        )
