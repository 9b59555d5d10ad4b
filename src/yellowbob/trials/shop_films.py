"""A shop's films out of finished weighings, all coats of all builds together.

A weighing of several coats at once says only what they weigh together: taken one by one, each would be blamed for the
others. So the shop's films, what soaks in, and its densities are unknowns of one linear model, pieces scattering about
them; what builds cannot tell apart stays as unsure as it is (normal prior and likelihood; Gelman et al. 2013, 14.2).
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from yellowbob.design.model import Coat, Design
from yellowbob.design.names import told_apart
from yellowbob.logbook.taught import Taught
from yellowbob.study import Study, of
from yellowbob.weights.causes import FILM_SPREAD, causes_of
from yellowbob.weights.evidence import rows_of

Array = NDArray[np.float64]

FILM_AWAY, SOAK_AWAY, DENSITY_AWAY = 0.4, 0.6, 2.5
"""How far a shop's own mean may lie from what is drawn, one sigma: shares of film and soak, spreads of a density. Rules."""
LEARNT = 0.9
"""A film is told once its uncertainty is under this share of what it was."""
HALF = 1.6449
"""Of the 90 % interval, in sigmas."""


@dataclass
class ShopFilms:
    """Builds under way: rows of the normal equations over the shop's unknowns, by name."""

    names: list[tuple[str, str]] = field(default_factory=list)
    prior: list[float] = field(default_factory=list)
    builds: list[tuple[Array, Array, Array]] = field(default_factory=list)
    drawn: dict[str, list[tuple[float, str]]] = field(default_factory=dict)
    """films as drawn, mm, with the build, by stock"""

    def add(self, serial: str, study: Study) -> None:
        """The weighings of a build."""
        design = study.design
        rows = rows_of(design, of.slip(study.forecast))
        if not rows:
            return
        causes = causes_of(design)
        stocks = dict(zip(told_apart(c.name for c in design.coats), design.coats, strict=True))
        keys = sorted({key for _, slopes, _ in rows for key in slopes})
        places = [self._place(key, causes[key].sigma if key in causes else 0.0, design, stocks) for key in keys]
        slopes = np.array([[slopes.get(key, 0.0) for key in keys] for _, slopes, _ in rows])
        scatter = np.array([causes[key].sigma if key in causes else 0.05 for key in keys])
        spread = slopes @ np.diag(scatter**2) @ slopes.T + np.diag([u**2 for _, _, u in rows])
        shared = np.zeros((len(rows), len(self.names)))
        for column, place in zip(slopes.T, places, strict=True):
            if place is not None:
                shared[:, place] += column
        self.builds.append((shared, np.linalg.inv(spread), np.array([miss for miss, _, _ in rows])))
        for key, coat in stocks.items():
            if any(f"film:{key}" in slopes for _, slopes, _ in rows):
                self.drawn.setdefault(coat.stock or coat.name, []).append((coat.film_mm, serial))

    def _place(self, key: str, sigma: float, design: Design, stocks: dict[str, Coat]) -> int | None:
        """Which unknown of the shop a cause goes with; None for what belongs to one piece alone."""
        kind, _, name = key.partition(":")
        if kind == "density":
            piece = next(p for p in design.pieces if p.name == name)
            if piece.material.measured:
                return None
            named, away = ("density", piece.material.name), DENSITY_AWAY * sigma
        elif kind in ("film", "soak") and name in stocks:
            named = (kind, stocks[name].stock or stocks[name].name)
            away = FILM_AWAY if kind == "film" else SOAK_AWAY
        else:
            return None
        if named not in self.names:
            self.names.append(named)
            self.prior.append(away)
        return self.names.index(named)

    def films(self) -> tuple[dict[str, Taught], tuple[str, ...]]:
        """The shop's films by stock, mm, of those that were learnt at all; and in words those that no film can be."""
        count = len(self.names)
        if not count:
            return {}, ()
        prior = np.array(self.prior)
        precision, pull = np.diag(1.0 / prior**2), np.zeros(count)
        for shared, inverse, miss in self.builds:
            wide = np.zeros((shared.shape[0], count))
            wide[:, : shared.shape[1]] = shared
            precision += wide.T @ inverse @ wide
            pull += wide.T @ inverse @ miss
        covariance = np.linalg.inv(precision)
        mean = covariance @ pull
        found, impossible = {}, []
        for at, (kind, name) in enumerate(self.names):
            sure = math.sqrt(float(covariance[at, at]))
            if kind == "film" and sure < LEARNT * prior[at]:
                told = self._told(name, float(mean[at]), sure)
                if told.mean > 0.0:
                    found[name] = told
                else:
                    serials = ", ".join(dict.fromkeys(told.serials))
                    impossible.append(
                        f"{name}: −{abs(told.mean):.2f} mm of film by the weighings of {serials}: look at those"
                    )
        return found, tuple(impossible)

    def _told(self, name: str, share: float, sure: float) -> Taught:
        drawn = [film for film, _ in self.drawn[name]]
        film = sum(drawn) / len(drawn)
        mean, half = film * (1.0 + share), HALF * film * sure
        scatter = FILM_SPREAD * mean
        next_half = math.hypot(half, HALF * scatter)
        return Taught(
            len(drawn), mean, mean - half, mean + half, scatter, scatter, scatter, mean - next_half, mean + next_half,
                film, None, None,
            tuple(serial for _, serial in self.drawn[name]),
        )  # fmt: skip
