"""A film from the command line: the bench's drawing without a window."""

from __future__ import annotations

import os
import tempfile
from pathlib import Path

from yellowbob.ground.errors import BadInput
from yellowbob.study import Study, of


def film_of(study: Study, out: Path, speed_m_s: float | None, throw_m_s: float | None) -> int:
    """Write a film of a run at a speed, or of a throw; returns its frames. Raises BadInput where it is not drawn at that
    speed."""
    os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")
    from yellowbob.action.flight import cast
    from yellowbob.app.benches.action.film import frames_of_run, frames_of_throw, write_film
    from yellowbob.app.frame.main import application
    from yellowbob.app.session.recovery import Recovery
    from yellowbob.app.session.session import Session
    from yellowbob.app.session.settings import Settings
    from yellowbob.app.session.warm import load_compiled
    from yellowbob.study.action import tied_first
    from yellowbob.study.drawn import USUAL_LINE, draw

    if out.suffix.lower() not in (".webp", ".png"):
        raise BadInput(f"{out.name}: a film is written as .webp, or as a row of pictures in a .png")
    with tempfile.TemporaryDirectory() as scratch:
        app = application(Settings(Path(scratch)))
        load_compiled()
        session = Session(study.design, Recovery(Path(scratch)), None)
        own = session.study
        of.rests(own)
        if throw_m_s is not None:
            done = write_film(
                frames_of_throw(session, cast(of.thrown(own), throw_m_s, 35.0, 2.0, tied_first(own))), out
            )
        else:
            assert speed_m_s is not None
            found = draw(own, [speed_m_s], USUAL_LINE)
            if not found.run.trims:
                raise BadInput(
                    f"it is not drawn at {speed_m_s:g} m/s: at {found.run.ends_at_m_s or 0.0:.2f} m/s it {found.run.ends}"
                )
            swing = found.sideways.swings[0] if found.sideways is not None and found.sideways.swings else None
            done = write_film(frames_of_run(session, found.run.trims[0], swing), out)
        session.tasks.finish()
        app.processEvents()
    return done
