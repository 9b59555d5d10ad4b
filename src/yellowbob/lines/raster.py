"""Shading of triangles into pixels, in machine code. Import it late: it brings the compiler with it."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from yellowbob.ground.compiled import compiled

Array = NDArray[np.float64]

CREASE_COS = 0.72
"""Faces that meet at a sharper angle than this (44°) keep an edge between them."""


@compiled
def corner_normals(faces: NDArray[np.int32], normals: Array, areas: Array, vertex_count: int, out: Array) -> None:
    """Fill out (m, 3, 3) with a normal for each face's corner: the mean of the faces about it that bend little."""
    start = np.zeros(vertex_count + 1, np.int64)
    for f in range(faces.shape[0]):
        for k in range(3):
            start[faces[f, k] + 1] += 1
    for v in range(vertex_count):
        start[v + 1] += start[v]
    fill, about = start[:-1].copy(), np.empty(faces.shape[0] * 3, np.int64)
    for f in range(faces.shape[0]):
        for k in range(3):
            about[fill[faces[f, k]]] = f
            fill[faces[f, k]] += 1
    for f in range(faces.shape[0]):
        for k in range(3):
            x = y = z = 0.0
            v = faces[f, k]
            for at in range(start[v], start[v + 1]):
                g = about[at]
                dot = normals[f, 0] * normals[g, 0] + normals[f, 1] * normals[g, 1] + normals[f, 2] * normals[g, 2]
                if dot > CREASE_COS:
                    x += normals[g, 0] * areas[g]
                    y += normals[g, 1] * areas[g]
                    z += normals[g, 2] * areas[g]
            size = np.sqrt(x * x + y * y + z * z) + 1e-30
            out[f, k, 0], out[f, k, 1], out[f, k, 2] = x / size, y / size, z / size


@compiled
def paint(
    vertices: Array, faces: NDArray[np.int32], normals: Array, right: Array, up: Array, place: Array,
    scale: float, origin: Array, lamp: Array, dark: Array, bright: Array, pixels: NDArray[np.uint8],
) -> None:  # fmt: skip
    """Fill pixels (h, w, 4) with the nearest faces, lit by `lamp`.

    vertices (n, 3) mm; faces (m, 3); normals (m, 3, 3), one for each face's corner; right, up, place (3,) body axes;
    scale px per mm; origin (2,) the pixel of `place`; dark and bright (3,) colours.
    """
    height, width = pixels.shape[0], pixels.shape[1]
    depth = np.full((height, width), -1e30)
    toward = np.empty(3)
    toward[0] = right[1] * up[2] - right[2] * up[1]
    toward[1] = right[2] * up[0] - right[0] * up[2]
    toward[2] = right[0] * up[1] - right[1] * up[0]
    points = np.empty((vertices.shape[0], 3))
    for n in range(vertices.shape[0]):
        x, y, z = vertices[n, 0] - place[0], vertices[n, 1] - place[1], vertices[n, 2] - place[2]
        points[n, 0] = origin[0] + scale * (x * right[0] + y * right[1] + z * right[2])
        points[n, 1] = origin[1] - scale * (x * up[0] + y * up[1] + z * up[2])
        points[n, 2] = x * toward[0] + y * toward[1] + z * toward[2]
    shade = np.empty(3)
    for f in range(faces.shape[0]):
        i, j, k = faces[f, 0], faces[f, 1], faces[f, 2]
        x0, y0, x1, y1, x2, y2 = points[i, 0], points[i, 1], points[j, 0], points[j, 1], points[k, 0], points[k, 1]
        twice = (x1 - x0) * (y2 - y0) - (x2 - x0) * (y1 - y0)
        if twice >= -1e-9:  # y runs down, so a face that looks at us is wound clockwise here
            continue
        for corner in range(3):
            lit = 0.0
            for axis in range(3):
                lit += normals[f, corner, axis] * lamp[axis]
            shade[corner] = min(1.0, max(0.0, 0.38 + 0.62 * lit))
        left, last = max(0, int(min(x0, x1, x2))), min(width - 1, int(max(x0, x1, x2)) + 1)
        top, bottom = max(0, int(min(y0, y1, y2))), min(height - 1, int(max(y0, y1, y2)) + 1)
        a_x, b_x = (y1 - y2) / twice, (y2 - y0) / twice
        for row in range(top, bottom + 1):
            py, px = row + 0.5, left + 0.5
            a = ((x1 - px) * (y2 - py) - (x2 - px) * (y1 - py)) / twice
            b = ((x2 - px) * (y0 - py) - (x0 - px) * (y2 - py)) / twice
            for column in range(left, last + 1):
                c = 1.0 - a - b
                if a >= -1e-6 and b >= -1e-6 and c >= -1e-6:
                    near = a * points[i, 2] + b * points[j, 2] + c * points[k, 2]
                    if near > depth[row, column]:
                        depth[row, column] = near
                        lit = a * shade[0] + b * shade[1] + c * shade[2]
                        for channel in range(3):
                            pixels[row, column, channel] = np.uint8(
                                dark[channel] + (bright[channel] - dark[channel]) * lit
                            )
                        pixels[row, column, 3] = 255
                a += a_x
                b += b_x


@compiled
def outline_edges(flat: Array, beside: NDArray[np.int32], toward: Array, sharp_cos: float) -> NDArray[np.int64]:
    """Numbers of the edges where faces turn away from us, or meet sharply and look at us.

    flat (m, 3) unit face normals; beside (k, 2) the two faces at each edge.
    """
    facing = np.empty(flat.shape[0])
    for f in range(flat.shape[0]):
        facing[f] = flat[f, 0] * toward[0] + flat[f, 1] * toward[1] + flat[f, 2] * toward[2]
    kept = np.empty(beside.shape[0], np.int64)
    count = 0
    for edge in range(beside.shape[0]):
        f, g = beside[edge, 0], beside[edge, 1]
        ahead_f, ahead_g = facing[f] > 1e-9, facing[g] > 1e-9
        if ahead_f != ahead_g:
            kept[count] = edge
            count += 1
        elif ahead_f:
            bend = flat[f, 0] * flat[g, 0] + flat[f, 1] * flat[g, 1] + flat[f, 2] * flat[g, 2]
            if bend < sharp_cos:
                kept[count] = edge
                count += 1
    return kept[:count].copy()
