"""What tracing asks of its planes of pixels, against the slower libraries that define it."""

from __future__ import annotations

import numpy as np
import pytest
from scipy import ndimage
from skimage.color import rgb2lab

from yellowbob.lines.tracing import masks
from yellowbob.lines.tracing.background import Surface, fitted
from yellowbob.lines.tracing.edge import AREA_SHARE, PLACED_PX, area_doubt


def blotches(seed: int) -> np.ndarray:
    return np.asarray(ndimage.gaussian_filter(np.random.default_rng(seed).random((211, 307)), 4) > 0.5)


def test_depths_growth_rims_holes_and_pieces_are_those_of_their_definitions() -> None:
    mask = blotches(3)
    assert np.abs(masks.depth(mask) - ndimage.distance_transform_edt(mask)).max() < 1e-4
    assert (masks.within(mask, 5.5) == (ndimage.distance_transform_edt(~mask) <= 5.5)).all()
    assert (masks.grown(mask, 3) == ndimage.binary_dilation(mask, iterations=3)).all()
    assert (masks.shrunk(mask, 2) == ndimage.binary_erosion(mask, iterations=2, border_value=1)).all()
    assert (masks.shrunk(mask, 2) == (masks.depth(mask) > 2.0)).all()
    assert (masks.rim(mask) == (mask & ~ndimage.binary_erosion(mask))).all()
    assert (masks.filled(mask) == ndimage.binary_fill_holes(mask)).all()
    numbers, sizes, boxes = masks.pieces(mask)
    numbered, count = ndimage.label(mask)
    assert len(boxes) == count
    assert sorted(sizes[1:]) == sorted(np.bincount(numbered.ravel())[1:])
    assert masks.largest(mask).sum() == max(sizes[1:])
    assert all((numbers[box] == n).sum() == sizes[n] for n, box in enumerate(boxes, start=1))


def test_how_far_a_mask_goes_and_which_way_and_how_a_plane_slopes() -> None:
    mask = blotches(4)
    places = np.argwhere(mask)[:, ::-1]
    corners, axes = masks.hull(mask), masks.axes_of(mask)
    assert len(corners) < 60
    for way in np.random.default_rng(4).normal(size=(40, 2)):
        assert (corners @ way).max() == pytest.approx((places @ way).max(), abs=1e-9)
    assert np.abs(np.abs(axes.T @ np.linalg.eigh(np.cov(places.T))[1]) - np.eye(2)).max() < 1e-6
    plane, everywhere = ndimage.gaussian_filter(mask.astype(float), 2.0), np.argwhere(np.ones_like(mask))
    down, right = np.gradient(plane)
    slope = masks.slope_at(plane, everywhere)
    assert np.abs(slope - np.stack([down.ravel(), right.ravel()], axis=1)).max() < 1e-12


def test_an_empty_mask_has_no_pieces_no_depth_and_the_whole_picture_as_its_box() -> None:
    none = np.zeros((40, 50), dtype=bool)
    assert masks.thickness(none) == 0.0
    assert not masks.within(none, 9.0).any() and not masks.largest(none).any() and not masks.filled(none).any()
    assert masks.box_of(none, 3) == (slice(0, 40), slice(0, 50))


def test_colours_are_those_of_the_standard_and_of_what_is_read_between_pixels() -> None:
    pixels = np.random.default_rng(5).integers(0, 256, (90, 110, 3)) / 255.0
    assert np.abs(masks.lab(pixels) - rgb2lab(pixels)).max() < 0.02
    assert np.abs(masks.soft(pixels, 0.8) - ndimage.gaussian_filter(pixels, (0.8, 0.8, 0.0))).max() < 1e-4
    ramp = np.add.outer(np.arange(60.0), 2.0 * np.arange(80.0))
    x, y = np.array([[3.3, 70.6]]), np.array([[8.2, 40.9]])
    assert np.abs(masks.read_at(ramp, x, y) - (y + 2.0 * x)).max() < 0.08


def test_a_quadratic_ground_is_found_under_a_body_and_read_at_any_size() -> None:
    terms = np.random.default_rng(7).normal(0.0, 8.0, (6, 3))
    truth = Surface(terms).over((150, 200)).astype(float)
    lying = truth + 0.0
    lying[60:90, 40:160] += 35.0
    use = np.ones((150, 200), dtype=bool)
    use[70:90, 40:160] = False
    found = fitted(lying, use)
    assert np.abs(found.terms - terms).max() < 0.05
    box = (slice(20, 120), slice(100, 330))
    assert np.abs(found.over((300, 400), box) - Surface(terms).over((300, 400))[box]).max() < 0.05


def test_a_slim_outline_s_area_is_as_unsure_as_its_edge() -> None:
    long, thick = 700.0, 30.0
    box = np.array([(x, 0.0) for x in np.linspace(0, long, 200)] + [(x, thick) for x in np.linspace(long, 0, 200)])
    assert area_doubt(box, PLACED_PX) == pytest.approx(PLACED_PX * 2 * (long + thick) / (long * thick), rel=1e-6)
    assert area_doubt(box * 4.0, PLACED_PX) < AREA_SHARE < area_doubt(box, PLACED_PX)


@pytest.mark.parametrize("count", [1, 2, 5, 8, 21])
@pytest.mark.parametrize("axis", [0, 1, -1])
def test_the_median_is_numpys(count: int, axis: int) -> None:
    shape = [40, 30, 3]
    shape[axis] = count
    values = np.random.default_rng(count).normal(size=shape).astype(np.float32)
    assert np.array_equal(masks.median(values, axis), np.median(values, axis=axis))
    whole = (10.0 * values).astype(int)
    assert np.array_equal(masks.median(whole, axis), np.median(whole, axis=axis))
    none = masks.median(values[:0])
    assert none.shape == values.shape[1:] and np.isnan(none).all() and np.isnan(masks.median(np.zeros(0)))


@pytest.mark.parametrize("count", [1, 2, 7, 400])
@pytest.mark.parametrize("share", [0.0, 0.05, 0.5, 0.995, 1.0])
def test_a_quantile_is_numpys(count: int, share: float) -> None:
    values = np.random.default_rng(count).normal(size=(count, 2))
    assert masks.quantile(values, share) == pytest.approx(float(np.quantile(values, share)), abs=1e-12)


def test_reading_across_places_reads_a_slope_where_it_lies() -> None:
    rows, columns = np.mgrid[:60, :80].astype(float)
    plane = np.stack([columns, rows, 2.0 * columns - rows], axis=2)
    at, angle = np.random.default_rng(3).uniform(20.0, 40.0, (50, 2)), np.linspace(0.0, 6.0, 50)
    normal, steps = np.stack([np.cos(angle), np.sin(angle)], axis=1), np.array([-6.0, 0.0, 2.5])
    x, y = (at[:, n] + steps[:, None] * normal[:, n] for n in (0, 1))
    assert np.allclose(masks.read_across(plane, at, normal, steps), np.stack([x, y, 2.0 * x - y], axis=2), atol=0.1)
    assert masks.read_across(plane[..., 0], at, normal, steps).shape == (3, 50)


def test_other_colours_leave_alone_how_clear_a_pixel_is() -> None:
    pixels = np.random.default_rng(4).random((7, 9, 4)).astype(np.float32)
    assert np.array_equal(masks.colours_of(pixels), pixels[..., :3])
    assert np.array_equal(
        masks.coloured(pixels, 1.0 - pixels[..., :3]), np.concatenate([1.0 - pixels[..., :3], pixels[..., 3:]], 2)
    )


def test_the_longest_run_round_an_outline_goes_on_past_its_first_point() -> None:
    rng = np.random.default_rng(8)
    for count in (1, 2, 7, 40):
        for share in (0.0, 0.3, 0.8, 1.0):
            marked = rng.random(count) < share
            twice = "".join("x" if m else " " for m in (*marked, *marked))
            assert masks.longest_run(marked) == min(count, max(len(part) for part in twice.split(" ")))


def test_a_pictures_frame_is_all_but_its_middle() -> None:
    frame = masks.frame((20, 30, 3), 4)
    assert frame.shape == (20, 30) and np.count_nonzero(frame) == 20 * 30 - 12 * 22
    assert not frame[4:16, 4:26].any()
