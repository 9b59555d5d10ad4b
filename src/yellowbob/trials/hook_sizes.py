"""Hooks a size up or down the shelf: the handiest trim weight there is."""

from __future__ import annotations

from yellowbob.design.model import Design, Fitting
from yellowbob.shelf.fitting import hook_like, swapped
from yellowbob.shelf.items import Hook
from yellowbob.shelf.shipped import hooks


def next_hook(hook: Hook, step: int) -> Hook | None:
    """The next lighter (-1) or heavier (1) hook of the same sort on the shelf; None past the end."""
    alike = (h for h in hooks().values() if h.sort == hook.sort and h.dressed == hook.dressed)
    same = sorted(alike, key=lambda h: h.mass_g)
    other = [h for h in same if (h.mass_g - hook.mass_g) * step > 1e-9]
    return (other[0] if step > 0 else other[-1]) if other else None


def resized(fitting: Fitting, step: int) -> tuple[Fitting, Hook] | None:
    """A hook exchanged for the next lighter (-1) or heavier (1), and which that is; None for anything else."""
    now = hook_like(fitting, hooks())
    other = next_hook(now, step) if now is not None else None
    return None if other is None else (swapped(fitting, other, now), other)


def other_hooks(design: Design, step: int) -> Design | None:
    """Every hook a size down (-1) or up (1); None when none has another."""
    found = [resized(fitting, step) for fitting in design.fittings]
    if not any(found):
        return None
    return design.but(fittings=tuple(new[0] if new else old for new, old in zip(found, design.fittings, strict=True)))
