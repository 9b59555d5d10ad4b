"""Fit-out: clearances of the hardware, bench worksheets, resin mixes, the weight budget."""
