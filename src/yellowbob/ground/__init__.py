"""Quantities, water, constants, errors and the compiler: what everything else stands on."""
