"""Density of the water a lure floats in, from the TEOS-10 equation of state through `gsw`."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

from yellowbob.ground.errors import BadInput

SALINITY_G_KG = {"fresh": 0.0, "brackish": 12.0, "sea": 35.16504}
"""Absolute salinity of the named waters, g/kg: pure water, a mid-estuary figure, the TEOS-10 reference ocean."""

TEMPERATURE_LIMITS_C = (-2.0, 40.0)
SALINITY_LIMITS_G_KG = (0.0, 42.0)


@dataclass(frozen=True)
class WaterState:
    """Water as it is: temperature in °C, Absolute Salinity in g/kg, density in g/mL."""

    temperature_c: float
    salinity_g_kg: float
    density_g_ml: float

    @property
    def density_g_mm3(self) -> float:
        """Density in the core's unit, g/mm³."""
        return self.density_g_ml / 1000.0


@lru_cache(maxsize=256)
def water_state(temperature_c: float, salinity_g_kg: float) -> WaterState:
    """Water at the surface (sea pressure 0) at a temperature and Absolute Salinity.

    Source: TEOS-10, `gsw.rho_t_exact`. Raises BadInput outside -2..40 °C or 0..42 g/kg.
    """
    if not math.isfinite(temperature_c) or not TEMPERATURE_LIMITS_C[0] <= temperature_c <= TEMPERATURE_LIMITS_C[1]:
        raise BadInput(f"water temperature {temperature_c:g} °C is outside -2 to 40 °C; give the water you fish in")
    if not math.isfinite(salinity_g_kg) or not SALINITY_LIMITS_G_KG[0] <= salinity_g_kg <= SALINITY_LIMITS_G_KG[1]:
        raise BadInput(f"salinity {salinity_g_kg:g} g/kg is outside 0 to 42 g/kg; the open sea is about 35")
    import gsw  # a quarter of a second to import: only when water is first asked for

    density = float(gsw.rho_t_exact(salinity_g_kg, temperature_c, 0.0)) / 1000.0
    return WaterState(temperature_c, salinity_g_kg, density)


def named_water(name: str, temperature_c: float = 14.0, salinity_g_kg: float | None = None) -> WaterState:
    """Water by its name, `fresh`, `brackish` or `sea`; an explicit salinity (g/kg) wins over the name's."""
    if salinity_g_kg is None:
        if name not in SALINITY_G_KG:
            raise BadInput(f"water '{name}' is not known; say fresh, brackish or sea, or give a salinity in g/kg")
        salinity_g_kg = SALINITY_G_KG[name]
    return water_state(float(temperature_c), float(salinity_g_kg))
