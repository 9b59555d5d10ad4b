"""Hours and cost, and the mould with its mix: what it takes."""

from __future__ import annotations

from PySide6.QtWidgets import QVBoxLayout

from yellowbob.app.benches.shop.list_pages import ShopPage
from yellowbob.app.benches.shop.view import ShopView
from yellowbob.app.session.session import Session
from yellowbob.app.widgets.fields import Choice, NumberField
from yellowbob.app.widgets.rows import labelled, row
from yellowbob.app.widgets.tables import fill, table
from yellowbob.shelf.shipped import powders, resins
from yellowbob.shop.cost import reckoned
from yellowbob.shop.mould import POSES, Mould, mould_of, pour_minutes

BY_ITSELF = "by itself"


class CostPage(ShopPage):
    """Steps and goods of one piece, and of so many."""

    def __init__(self, session: Session, view: ShopView) -> None:
        super().__init__("Hours and cost", session, view, "What it takes")
        self.copies = NumberField("Copies", (1.0, 200.0), 1.0)
        self.copies.valueChanged.connect(lambda _: self.refresh())
        self.table = table("Steps and goods", ("what", "how much", "takes or costs"))
        left = QVBoxLayout()
        left.addLayout(row("Copies", self.copies))
        self.lay_out(left, self.table, 5)

    def refresh(self) -> None:
        fill(self.table, [])
        self.view.show_things(None, ())
        if self.session.fault:
            self.says.setText(f"! {self.session.fault}")
            return
        copies = int(self.copies.value())
        found = reckoned(self.session.study, copies)
        rows = [[s.name, f"{s.times} ×", f"{s.minutes:.0f} min"] for s in found.steps]
        rows += [
            [g.name, f"{g.amount:.3g} × {g.unit}", "no price" if g.cost is None else f"{g.cost:.2f}"]
            for g in found.goods
        ]
        fill(self.table, rows)
        said = [f"About <b>{found.minutes_each / 60:.1f} h</b> of hands for one, {found.minutes_batch / 60:.1f} h for "
                f"{copies}: rules of thumb, "
                "drying not in it.", f"<b>{found.cost_each:.2f}</b> for one, {found.cost_batch:.2f} for {copies}, in "
                                     f"your currency."]  # fmt: skip
        if found.unpriced:
            said.append(
                f"! {len(found.unpriced)} of {len(found.goods)} have no price on the shelf and are not in it: "
                f"Fit-out, Shelf."
            )
        self.says.setText("<br>".join(said))


class MouldPage(ShopPage):
    """Pose, resin and powder chosen; masses for one cast and for the batch."""

    def __init__(self, session: Session, view: ShopView) -> None:
        super().__init__("Mould", session, view, "The mould")
        self.copies = NumberField("Casts", (1.0, 100.0), 3.0)
        self.copies.setMinimumWidth(44)
        self.copies.valueChanged.connect(lambda _: self.refresh())
        self.pose = Choice("Poured", [BY_ITSELF, *POSES], lambda _: self.refresh())
        self.resin = Choice("Resin", list(resins()), lambda _: self.refresh())
        self.powder = Choice("Powder", list(powders()), lambda _: self.refresh())
        self.table = table("Mix by mass", ("casts", "part A", "part B", "powder", "whole mix"))
        left = QVBoxLayout()
        left.setSpacing(4)
        left.addLayout(row("Casts", self.copies, "poured", self.pose))
        left.addLayout(labelled(("Resin", self.resin), ("Powder", self.powder)))
        self.lay_out(left, self.table, 9)

    def refresh(self) -> None:
        fill(self.table, [])
        self.view.show_things(None, ())
        if self.session.fault:
            self.says.setText(f"! {self.session.fault}")
            return
        pose = "" if self.pose.currentText() == BY_ITSELF else self.pose.currentText()
        study, copies = self.session.apart(), int(self.copies.value())
        resin, powder = self.resin.currentText(), self.powder.currentText()
        self.session.tasks.start(
            "mould", lambda _: mould_of(study, copies, pose, resin, powder), self._show,
            lambda words: self.says.setText(f"! {words}"), words="looking for the mould's high places",
        )  # fmt: skip

    def _show(self, found: Mould) -> None:
        rows = [
            [f"{b.casts}", *(f"{v:.1f} g" for v in (b.a_g, b.b_g, b.powder_g, b.a_g + b.b_g + b.powder_g))]
            for b in found.batches
        ]
        fill(self.table, rows)
        long, wide, high = found.box_mm
        life = pour_minutes(resins()[found.resin], 20.0)
        at = f"{found.pour_mm[0]:.0f} mm from the nose, {found.pour_mm[2]:+z.0f} from the axis"
        said = [
            f"Box inside <b>{long:.0f} × {wide:.0f} × {high:.0f} mm</b>, {found.rubber_ml:.0f} mL of rubber, about "
            f"{found.rubber_g:.0f} g.",
            f"{found.percent:.1f} % of powder to A + B: {found.mixed_g_ml:.3f} g/mL; pours for about {life:.0f} min "
            f"at 20 °C.",
            f"Poured {found.pose}: in at {at}; {len(found.vents_mm) or 'no'} vent{'s' * (len(found.vents_mm) != 1)}.",
            *(f"Hangs in it: {words}." for words in found.harness), *(f"! {words}" for words in found.says),
            "Gloves, air, eye protection; data sheets decide.",
        ]  # fmt: skip
        self.says.setText("<br>".join(said).replace("-", "−"))
