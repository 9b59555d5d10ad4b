"""Physical constants in the core's units (mm, g, s; so forces in µN and energies in nJ)."""

GRAVITY_MM_S2 = 9806.65
"""Standard gravity, mm/s² (CGPM 1901)."""

SURFACE_TENSION_G_S2 = 72.8
"""Surface tension of clean water against air at 20 °C, g/s² (the same number as mN/m)."""
