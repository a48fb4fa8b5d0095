"""Meshes as binary glTF 2.0, each corner carrying the number of the solid's face it lies on
(``_FACE``).
"""

from __future__ import annotations

import json
import struct

import numpy as np

from machining.geometry.mesh import Mesh

FLOAT, UNSIGNED = 5126, 5125


def write(mesh: Mesh) -> bytes:
    """One mesh, flat shaded: corners are split so that each belongs to one face. Millimetres, Z up,
    as drawn.
    """
    corners = mesh.vertices[mesh.triangles].astype(np.float32).reshape(-1, 3)
    faces = np.repeat(mesh.faces, 3).astype(np.float32)
    pairs, where = np.unique(np.column_stack([corners, faces]), axis=0, return_inverse=True)
    points, owner = np.ascontiguousarray(pairs[:, :3]), np.ascontiguousarray(pairs[:, 3])
    indices = where.reshape(-1).astype(np.uint32)
    blobs = [points.tobytes(), owner.tobytes(), indices.tobytes()]
    views, at = [], 0
    for blob, target in zip(blobs, (34962, 34962, 34963), strict=True):
        views.append({"buffer": 0, "byteOffset": at, "byteLength": len(blob), "target": target})
        at += len(blob)
    head = {
        "asset": {"version": "2.0"},
        "scene": 0,
        "scenes": [{"nodes": [0]}],
        "nodes": [{"mesh": 0}],
        "meshes": [{"primitives": [{"attributes": {"POSITION": 0, "_FACE": 1}, "indices": 2}]}],
        "accessors": [
            {
                "bufferView": 0,
                "componentType": FLOAT,
                "count": len(points),
                "type": "VEC3",
                "min": points.min(axis=0).tolist(),
                "max": points.max(axis=0).tolist(),
            },
            {"bufferView": 1, "componentType": FLOAT, "count": len(points), "type": "SCALAR"},
            {"bufferView": 2, "componentType": UNSIGNED, "count": len(indices), "type": "SCALAR"},
        ],
        "bufferViews": views,
        "buffers": [{"byteLength": at}],
    }
    text = json.dumps(head, separators=(",", ":")).encode()
    text += b" " * (-len(text) % 4)
    body = b"".join(blobs)
    total = 12 + 8 + len(text) + 8 + len(body)
    return (
        struct.pack("<4sII", b"glTF", 2, total)
        + struct.pack("<I4s", len(text), b"JSON")
        + text
        + struct.pack("<I4s", len(body), b"BIN\0")
        + body
    )
