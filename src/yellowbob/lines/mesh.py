"""A closed triangle mesh and what follows from it exactly: volume, centroid, moments, area."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]


@dataclass(frozen=True)
class Moments:
    """Volume moments of a solid: mm³, mm, and the second moment tensor ∫ (x-c)(x-c)ᵀ dV about the centroid, mm⁵."""

    volume_mm3: float
    centroid_mm: Array
    second_mm5: Array


def cross(a: Array, b: Array) -> Array:
    """Row-wise vector product of (n, 3) arrays; several times quicker than the general one of numpy."""
    out = np.empty(np.broadcast_shapes(a.shape, b.shape))
    out[:, 0] = a[..., 1] * b[..., 2] - a[..., 2] * b[..., 1]
    out[:, 1] = a[..., 2] * b[..., 0] - a[..., 0] * b[..., 2]
    out[:, 2] = a[..., 0] * b[..., 1] - a[..., 1] * b[..., 0]
    return out


def _weighted_squares(weight: Array, corners: Array, total: Array) -> Array:
    """Σ w (Σ_k x_k x_kᵀ + t tᵀ) over triangles with corners x_k, (m, 3, 3), and t their sum, (m, 3)."""
    flat = corners.reshape(-1, 3)
    return (np.repeat(weight, 3)[:, None] * flat).T @ flat + (weight[:, None] * total).T @ total


@dataclass(frozen=True, eq=False)
class Mesh:
    """Closed surface: `vertices` (n, 3) in mm, `faces` (m, 3) wound counter-clockwise seen from outside."""

    vertices: Array
    faces: NDArray[np.int32]

    @cached_property
    def corners(self) -> Array:
        """(m, 3, 3): each triangle's three corners."""
        return self.vertices[self.faces]

    @cached_property
    def area_vectors(self) -> Array:
        """(m, 3): outward normals as long as each triangle's area, mm²."""
        corners = self.corners
        return 0.5 * cross(corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0])

    @cached_property
    def areas(self) -> Array:
        """(m,) area of each triangle, mm²."""
        return np.linalg.norm(self.area_vectors, axis=1)

    @property
    def area_mm2(self) -> float:
        """Of the whole surface, mm²."""
        return float(self.areas.sum())

    @cached_property
    def moments(self) -> Moments:
        """Exact polyhedral moments by tetrahedra from the vertex mean (Tonon 2004)."""
        if not len(self.faces):
            return Moments(0.0, np.zeros(3), np.zeros((3, 3)))
        origin, corners, sixth = self._tetrahedra()
        volume = float(sixth.sum())
        total = corners.sum(axis=1)
        first = (sixth[:, None] * total).sum(axis=0) / 4.0
        second = _weighted_squares(sixth, corners, total) / 20.0
        if volume == 0.0:
            return Moments(0.0, origin, np.zeros((3, 3)))
        centroid = first / volume
        return Moments(volume, origin + centroid, second - volume * np.outer(centroid, centroid))

    def _tetrahedra(self) -> tuple[Array, Array, Array]:
        """The vertex mean, corners (m, 3, 3) from there, and the volume (m,) between it and each triangle."""
        origin = self.vertices.mean(axis=0)
        corners = self.corners - origin
        return origin, corners, np.einsum("ij,ij->i", corners[:, 0], cross(corners[:, 1], corners[:, 2])) / 6.0

    @cached_property
    def volume_mm3(self) -> float:
        """Enclosed volume, mm³; negative for a mesh turned inside out."""
        return float(self._tetrahedra()[2].sum()) if len(self.faces) else 0.0

    @cached_property
    def skin_moments(self) -> tuple[Array, Array]:
        """Centroid (mm) and second moment tensor about it (mm⁴) of the surface as a thin skin."""
        area = self.areas
        mean = area @ self.corners.sum(axis=1) / (3.0 * area.sum())
        corners = self.corners - mean
        total = corners.sum(axis=1)
        return mean, _weighted_squares(area, corners, total) / 12.0

    @cached_property
    def bounds(self) -> Array:
        """(2, 3): least and greatest corner, mm."""
        return np.array([self.vertices.min(axis=0), self.vertices.max(axis=0)])

    def vertex_normals(self) -> Array:
        """(n, 3) unit normals, each face weighted by its angle at the vertex (Thürmer and Wüthrich 1998)."""
        corners, flat = self.corners, self.area_vectors / np.maximum(self.areas[:, None], 1e-30)
        normals = np.zeros_like(self.vertices)
        for k in range(3):
            one = corners[:, (k + 1) % 3] - corners[:, k]
            two = corners[:, (k + 2) % 3] - corners[:, k]
            size = np.linalg.norm(cross(one, two), axis=1)
            angle = np.arctan2(size, np.einsum("ij,ij->i", one, two))
            np.add.at(normals, self.faces[:, k], flat * angle[:, None])
        return normals / np.maximum(np.linalg.norm(normals, axis=1, keepdims=True), 1e-30)

    def moved(self, matrix: Array | None = None, shift: Array | None = None) -> Mesh:
        """The mesh after x -> matrix·x + shift; a mirroring matrix turns the winding round."""
        vertices = self.vertices if matrix is None else self.vertices @ np.asarray(matrix).T
        if shift is not None:
            vertices = vertices + np.asarray(shift)
        faces = self.faces
        if matrix is not None and np.linalg.det(matrix) < 0:
            faces = faces[:, ::-1]
        return Mesh(np.ascontiguousarray(vertices), np.ascontiguousarray(faces))


def grown(mesh: Mesh, film_mm: float) -> Mesh:
    """The surface moved out by a film's thickness.

    Vertices move along their normals by as much as makes the volume gained equal area x film (1 + edges' share):
    the first term of Steiner's formula for parallel surfaces; the second is below film/size.
    """
    if film_mm <= 0.0:
        return mesh
    normals = mesh.vertex_normals()
    wanted = mesh.volume_mm3 + mesh.area_mm2 * film_mm
    step = film_mm
    out = Mesh(mesh.vertices + normals * step, mesh.faces)
    for _ in range(3):
        step *= (wanted - mesh.volume_mm3) / (out.volume_mm3 - mesh.volume_mm3)
        out = Mesh(mesh.vertices + normals * step, mesh.faces)
    return out
