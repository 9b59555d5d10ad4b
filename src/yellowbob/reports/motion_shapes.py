"""Shapes of what the commands of motion print: rough, action, cast."""

from __future__ import annotations

from typing import Any

from yellowbob.reports.shape import maybe

MOTION: dict[str, Any] = {
    "rough": {
        "name": str,
        "wave_mm": float,
        "wave_length_mm": float,
        "wave_s": float,
        "periods_s": {"heave": maybe(float), "pitch": maybe(float), "roll": maybe(float)},
        "follows": float,
        "needs_mm": float,
        "shows_mm": maybe(float),
        "in_step": bool,
        "current": maybe({"drag_g": float, "leans_deg": float, "under_m_s": maybe(float), "grade": str}),
        "grade": str,
        "source": str,
    },
    "action": {
        "name": str,
        "periods_s": {
            "heave": maybe(float),
            "pitch": maybe(float),
            "roll": maybe(float),
            "grade": str,
            "source": str,
        },
        "trim": [
            {
                "speed_m_s": float,
                "pitch_deg": float,
                "draft_mm": float,
                "pull_g": float,
                "line_deg": float,
                "wet_share": float,
                "nose_over_mm": float,
                "froude": float,
                "left_over": [float],
            }
        ],
        "ends": str,
        "ends_at_m_s": maybe(float),
        "stays_up_from_m_s": maybe(float),
        "planes_from_m_s": maybe(float),
        "nose_under_from_m_s": maybe(float),
        "swings": [
            {
                "speed_m_s": float,
                "hz": float,
                "by_itself": bool,
                "yaw_deg": maybe(float),
                "roll_deg": maybe(float),
                "wide_mm": maybe(float),
                "heel_deg": float,
                "drifts_mm": float,
                "why": str,
            }
        ],
        "rollover_m_s": maybe(float),
        "rolls_over_by": str,
        "swing_hz": maybe(float),
        "swings_from_m_s": maybe(float),
        "out_of_true": maybe(
            {
                "told_for_mm": float,
                "told_for_deg": float,
                "halves_mm": maybe(float),
                "halves_deg": maybe(float),
                "grade": str,
                "source": str,
            }
        ),
        "pop": [
            {
                "name": str,
                "area_mm2": float,
                "volume_ml": float,
                "air_share": float,
                "wet_rim_share": float,
                "looks_deg": float,
                "tie_over_mm": float,
                "scoops_ml": float,
                "grade": str,
                "source": str,
                "jerked": maybe(
                    {"twitch_m_s": float, "air_share": float, "digs_mm": float, "brakes_g": float, "grade": str}
                ),
            }
        ],
        "walk": maybe(
            {
                "turn_s": maybe(float),
                "turns_deg": float,
                "glide_mm": float,
                "aside_mm": float,
                "from_deg": float,
                "twitch_m_s": float,
                "grade": str,
                "source": str,
            }
        ),
        "wake": [
            {
                "speed_m_s": float,
                "froude": float,
                "angle_deg": float,
                "waves_mm": float,
                "beam_mm": float,
                "lip_mm2": float,
                "lip_deep_mm": maybe(float),
                "grade": str,
                "source": str,
            }
        ],
        "prop": [
            {
                "speed_m_s": float,
                "heel_deg": maybe(float),
                "jammed_deg": maybe(float),
                "keel_g": float,
                "kept_deg": float,
                "side_g": float,
                "jammed_side_g": float,
                "aside_mm": maybe(float),
                "jammed_aside_mm": maybe(float),
                "grade": str,
                "source": str,
                "each": [
                    {
                        "name": str,
                        "stands_for": str,
                        "wet_share": float,
                        "starts_m_s": maybe(float),
                        "rate_hz": float,
                        "ticks_hz": float,
                        "free_mn_mm": float,
                        "jammed_mn_mm": float,
                    }
                ],
            }
        ],
        "props": [{"name": str, "across_mm": float, "at_rest": float, "runs": [float]}],
        "grade": str,
        "source": str,
        "calibrated": bool,
        "tests": int,
        "not_computed": str,
    },
    "film": {"wrote": str, "frames": int},
    "cast": {
        "name": str,
        "mass_g": float,
        "flies_g": float,
        "range_m": float,
        "dart_m": float,
        "share": float,
        "seconds": float,
        "turns": float,
        "index": float,
        "leads": float,
        "flies": str,
        "landing": {
            "pitch_deg": float,
            "speed_m_s": float,
            "throws": int,
            "comes_right": maybe(float),
            "evenly": maybe(float),
            "comes_right_least": maybe(float),
            "meniscus_share": maybe(float),
        },
        "two_bodies": maybe(
            {
                "mass_g": float,
                "leader_mm": float,
                "range_m": float,
                "turns": float,
                "leads": str,
                "tangles": bool,
                "grade": str,
            }
        ),
        "tackle_max_g": maybe(float),
        "too_heavy": bool,
        "grade": str,
        "source": str,
    },
}
