"""Rotations and rigid or affine transforms, over whole arrays.

Quaternions are (x, y, z, w), shape (..., 4). Matrices are ``a_from_b`` for column vectors, shape (..., 4, 4). Camera
angles are degrees: pan right, tilt up, roll clockwise as seen from behind the camera.
"""

from __future__ import annotations

import numpy as np
from numpy.typing import ArrayLike

from ..arrays import Floats


def normalized(vectors: Floats, fallback: ArrayLike) -> Floats:
    """Unit vectors along the last axis; a vector of no length becomes ``fallback``."""
    length = np.linalg.norm(vectors, axis=-1, keepdims=True)
    tiny = ~(length > 1e-30)
    safe = np.where(tiny, 1.0, length)
    return np.asarray(np.where(tiny, np.asarray(fallback, dtype=np.float64), vectors / safe))


def quaternion_normalized(quaternions: Floats) -> Floats:
    """Unit quaternions; one of no length becomes the identity."""
    return normalized(quaternions, (0.0, 0.0, 0.0, 1.0))


def quaternion_product(a: Floats, b: Floats) -> Floats:
    """Hamilton product, shape (..., 4): first turns by ``b``, then by ``a``."""
    ax, ay, az, aw = np.moveaxis(a, -1, 0)
    bx, by, bz, bw = np.moveaxis(b, -1, 0)
    return np.stack(
        [
            aw * bx + ax * bw + ay * bz - az * by,
            aw * by - ax * bz + ay * bw + az * bx,
            aw * bz + ax * by - ay * bx + az * bw,
            aw * bw - ax * bx - ay * by - az * bz,
        ],
        axis=-1,
    )


def slerp(a: Floats, b: Floats, share: Floats) -> Floats:
    """Spherical interpolation on the shortest arc; ``share`` has the shape of ``a`` without its last axis."""
    dot = np.einsum("...i,...i->...", a, b)
    b = np.where((dot < 0)[..., None], -b, b)
    angle = np.arccos(np.minimum(np.abs(dot), 1.0))
    sine = np.sin(angle)
    near = sine < 1e-9
    safe = np.where(near, 1.0, sine)
    weight_a = np.where(near, 1.0 - share, np.sin((1.0 - share) * angle) / safe)
    weight_b = np.where(near, share, np.sin(share * angle) / safe)
    return quaternion_normalized(weight_a[..., None] * a + weight_b[..., None] * b)


def direction_between(a: Floats, b: Floats, share: Floats) -> Floats:
    """Unit vectors on the great circle from ``a`` to ``b``; opposite ones go round by the level way.

    >>> direction_between(np.array([1.0, 0, 0]), np.array([0, 0, 1.0]), np.array(0.5)).round(3).tolist()
    [0.707, 0.0, 0.707]
    """
    cosine = np.clip(np.einsum("...i,...i->...", a, b), -1.0, 1.0)
    side = b - a * cosine[..., None]
    level = np.stack([-a[..., 2], np.zeros_like(cosine), a[..., 0]], axis=-1)
    level = normalized(level, (1.0, 0.0, 0.0))
    length = np.linalg.norm(side, axis=-1, keepdims=True)
    side = np.where(length > 1e-9, side / np.where(length > 1e-9, length, 1.0), level)
    angle = (np.arctan2(length[..., 0], cosine) * share)[..., None]
    return np.asarray(normalized(a * np.cos(angle) + side * np.sin(angle), (0.0, 0.0, -1.0)))


def matrix_from_quaternion(quaternions: Floats) -> Floats:
    """Rotation matrices, shape (..., 3, 3), of unit quaternions."""
    x, y, z, w = np.moveaxis(quaternions, -1, 0)
    out = np.empty((*quaternions.shape[:-1], 3, 3))
    out[..., 0, 0] = 1 - 2 * (y * y + z * z)
    out[..., 0, 1] = 2 * (x * y - z * w)
    out[..., 0, 2] = 2 * (x * z + y * w)
    out[..., 1, 0] = 2 * (x * y + z * w)
    out[..., 1, 1] = 1 - 2 * (x * x + z * z)
    out[..., 1, 2] = 2 * (y * z - x * w)
    out[..., 2, 0] = 2 * (x * z - y * w)
    out[..., 2, 1] = 2 * (y * z + x * w)
    out[..., 2, 2] = 1 - 2 * (x * x + y * y)
    return out


def matrix_from_rotation_vector(vectors: Floats) -> Floats:
    """Rotation matrices, shape (..., 3, 3), of rotation vectors (..., 3): axis times angle in radians, of any size."""
    half = np.linalg.norm(vectors, axis=-1, keepdims=True) / 2
    axis = normalized(vectors, (0.0, 0.0, 0.0))
    return matrix_from_quaternion(np.concatenate([axis * np.sin(half), np.cos(half)], axis=-1))


def rotation_vector_from_matrix(rotations: Floats) -> Floats:
    """Rotation vectors (..., 3), up to half a turn long, of rotation matrices (..., 3, 3)."""
    quaternions = quaternion_from_matrix(rotations)
    length = np.linalg.norm(quaternions[..., :3], axis=-1)
    angle = 2 * np.arctan2(length, quaternions[..., 3])
    return np.asarray(normalized(quaternions[..., :3], (0.0, 0.0, 0.0)) * angle[..., None])


def quaternion_from_matrix(rotations: Floats) -> Floats:
    """Unit quaternions, w >= 0, of proper rotation matrices of shape (..., 3, 3).

    Each component's square comes from the diagonal; the largest one is taken as the divisor (Shepperd's method).
    """
    m = rotations
    trace = m[..., 0, 0] + m[..., 1, 1] + m[..., 2, 2]
    squares = np.stack(
        [
            1 + 2 * m[..., 0, 0] - trace,
            1 + 2 * m[..., 1, 1] - trace,
            1 + 2 * m[..., 2, 2] - trace,
            1 + trace,
        ],
        axis=-1,
    )
    xy, xz, yz = m[..., 0, 1] + m[..., 1, 0], m[..., 0, 2] + m[..., 2, 0], m[..., 1, 2] + m[..., 2, 1]
    wx, wy, wz = m[..., 2, 1] - m[..., 1, 2], m[..., 0, 2] - m[..., 2, 0], m[..., 1, 0] - m[..., 0, 1]
    rows = np.stack(
        [
            np.stack([squares[..., 0], xy, xz, wx], axis=-1),
            np.stack([xy, squares[..., 1], yz, wy], axis=-1),
            np.stack([xz, yz, squares[..., 2], wz], axis=-1),
            np.stack([wx, wy, wz, squares[..., 3]], axis=-1),
        ],
        axis=-2,
    )
    best = np.argmax(squares, axis=-1)
    chosen = np.take_along_axis(rows, best[..., None, None], axis=-2)[..., 0, :]
    quaternions = quaternion_normalized(chosen)
    return np.where(quaternions[..., 3:] < 0, -quaternions, quaternions)


def compose(translation: Floats, quaternion: Floats, scale: Floats) -> Floats:
    """Matrices of translation x rotation x scale, shape (..., 4, 4)."""
    shape = np.broadcast_shapes(translation.shape[:-1], quaternion.shape[:-1], scale.shape[:-1])
    out = np.zeros((*shape, 4, 4))
    out[..., :3, :3] = matrix_from_quaternion(quaternion) * scale[..., None, :]
    out[..., :3, 3] = translation
    out[..., 3, 3] = 1.0
    return out


def rigid(rotation: Floats, translation: Floats) -> Floats:
    """Matrices, shape (..., 4, 4), of a 3 x 3 part and a translation."""
    shape = np.broadcast_shapes(rotation.shape[:-2], translation.shape[:-1])
    out = np.zeros((*shape, 4, 4))
    out[..., :3, :3] = rotation
    out[..., :3, 3] = translation
    out[..., 3, 3] = 1.0
    return out


def rigid_inverse(matrices: Floats) -> Floats:
    """Inverse of matrices whose 3 x 3 part is a rotation."""
    rotation = np.swapaxes(matrices[..., :3, :3], -1, -2)
    return rigid(rotation, -np.einsum("...ij,...j->...i", rotation, matrices[..., :3, 3]))


def orthonormal(matrices: Floats) -> Floats:
    """The right-handed rigid part of affine camera nodes: the way they look (-Z) is kept, then their up, scale is dropped."""
    back = normalized(matrices[..., :3, 2], (0.0, 0.0, 1.0))
    right = np.cross(matrices[..., :3, 1], back)
    sideways = normalized(np.cross(np.broadcast_to([0.0, 1.0, 0.0], back.shape), back), (1.0, 0.0, 0.0))
    right = np.where(
        np.linalg.norm(right, axis=-1, keepdims=True) > 1e-12, normalized(right, (1.0, 0.0, 0.0)), sideways
    )
    up = np.cross(back, right)
    return rigid(np.stack([right, up, back], axis=-1), matrices[..., :3, 3])


def apply(matrices: Floats, points: Floats) -> Floats:
    """Transform points of shape (..., 3) by matrices of shape (..., 4, 4), broadcasting the leading axes."""
    if matrices.ndim > 2 and points.ndim > 1 and matrices.shape[-3] == 1:
        # One matrix for a row of points: a product of matrices, which is much faster.
        turned = points @ np.swapaxes(matrices[..., 0, :3, :3], -1, -2)
        return np.asarray(turned + matrices[..., :, :3, 3])
    return np.asarray(np.einsum("...ij,...j->...i", matrices[..., :3, :3], points) + matrices[..., :3, 3])


def rotation_from_angles(pan: ArrayLike, tilt: ArrayLike, roll: ArrayLike) -> Floats:
    """``Ry(-pan) Rx(tilt) Rz(-roll)``, angles in degrees, shape (..., 3, 3)."""
    p, t, r = (np.radians(np.asarray(a, dtype=np.float64)) for a in (pan, tilt, roll))
    p, t, r = np.broadcast_arrays(p, t, r)
    cp, sp, ct, st, cr, sr = np.cos(p), np.sin(p), np.cos(t), np.sin(t), np.cos(r), np.sin(r)
    out = np.empty((*p.shape, 3, 3))
    # Ry(-pan) Rx(tilt), then its first two columns turned by Rz(-roll).
    a0, a1, a2 = cp, np.zeros_like(cp), sp
    b0, b1, b2 = -sp * st, ct, cp * st
    out[..., 0, 0], out[..., 1, 0], out[..., 2, 0] = a0 * cr - b0 * sr, a1 * cr - b1 * sr, a2 * cr - b2 * sr
    out[..., 0, 1], out[..., 1, 1], out[..., 2, 1] = a0 * sr + b0 * cr, a1 * sr + b1 * cr, a2 * sr + b2 * cr
    out[..., 0, 2], out[..., 1, 2], out[..., 2, 2] = -sp * ct, -st, cp * ct
    return out


def angles_from_rotation(rotations: Floats, previous_pan: float = 0.0, previous_roll: float = 0.0) -> Floats:
    """Pan, tilt and roll in degrees, shape (..., 3); a leading frame axis comes out with pan and roll unwrapped.

    Straight up or down, only pan and roll together are determined: the roll of the frame before is kept
    (``previous_roll`` on the first). A single rotation comes out with the pan nearest to ``previous_pan``.
    """
    flat = rotations.reshape(-1, 3, 3)
    back = flat[:, :, 2]
    level = np.hypot(back[:, 0], back[:, 2])
    tilt = np.degrees(np.arctan2(-back[:, 1], level))
    pan = np.degrees(np.arctan2(-back[:, 0], back[:, 2]))
    roll = np.degrees(np.arctan2(-flat[:, 1, 0], flat[:, 1, 1]))
    for index in np.flatnonzero(level < 1e-9):
        roll[index] = roll[index - 1] if index else previous_roll
        side = flat[index] @ np.array([np.cos(np.radians(roll[index])), np.sin(np.radians(roll[index])), 0.0])
        pan[index] = np.degrees(np.arctan2(side[2], side[0]))
    pan = np.unwrap(np.concatenate([[previous_pan], pan]), period=360.0)[1:]
    roll = np.unwrap(np.concatenate([[previous_roll], roll]), period=360.0)[1:]
    return np.stack([pan, tilt, roll], axis=-1).reshape(*rotations.shape[:-2], 3)


def look_rotation(forward: Floats, up: Floats) -> Floats:
    """Rotation whose -Z looks along ``forward`` (shape (..., 3)), with ``up`` upwards; they may not be parallel."""
    back = -normalized(forward, (0.0, 0.0, -1.0))
    right = normalized(np.cross(up, back), (1.0, 0.0, 0.0))
    return np.stack([right, np.cross(back, right), back], axis=-1)
