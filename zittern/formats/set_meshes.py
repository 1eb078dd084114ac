"""The triangles of a set, piece by piece.

Static meshes under the same top-level object form one piece, moving ones are separate pieces.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace

import numpy as np

from zittern.core.errors import FormatError
from zittern.core.plates.set_pieces import Piece, SetPieces
from zittern.core.units import Array
from zittern.formats import gltf_file, gltf_motion
from zittern.formats.files import no_sidecars
from zittern.formats.gltf_file import Gltf

__all__ = ["MOST_TRIANGLES", "pieces_of"]

# Pieces of larger sets beyond this number of triangles are ignored.
MOST_TRIANGLES = 300_000
_TRIANGLES = 4


def pieces_of(data: bytes) -> SetPieces:
    """Return the pieces of a set file. Raises FormatError for any other file."""
    gltf = gltf_file.load(data, no_sidecars)
    nodes = gltf.json.nodes
    tracks, _ = gltf_motion.tracks_of(gltf, range(len(nodes)))
    animated = {node for node, _ in tracks}
    still: dict[str, tuple[frozenset[str], list[Array]]] = {}
    pieces: list[Piece] = []
    count = left_out = 0
    for i, node in enumerate(nodes):
        triangles = None if node.mesh is None else _triangles(gltf, node.mesh)
        if triangles is None or not len(triangles):
            continue
        if count + len(triangles) > MOST_TRIANGLES:
            left_out += len(triangles)
            continue
        count += len(triangles)
        chain = gltf.above(i)
        names = [nodes[each].name for each in chain if nodes[each].name]
        if animated & set(chain):
            pieces.append(Piece("/".join(names), frozenset(names), triangles, _poses(gltf, chain)))
        else:
            world = gltf_motion.world_matrices(gltf, chain, {}, np.zeros(1))[0]
            known = still.setdefault("/".join(names), (frozenset(names), []))
            known[1].append(triangles @ world[:3, :3].T + world[:3, 3])
    for path, (names_of, parts) in still.items():
        pieces.append(Piece(path, names_of, np.concatenate(parts)))
    return SetPieces(tuple(_titled(pieces)), left_out)


def _titled(pieces: list[Piece]) -> Iterator[Piece]:
    """Each by the object at the top that it belongs to; below what only holds the whole set together."""
    ways = [piece.name.split("/") for piece in pieces]
    depth = 1 if len({way[0] for way in ways}) == 1 < len(ways) else 0
    for piece, way in zip(pieces, ways, strict=True):
        yield replace(piece, name=way[min(depth, len(way) - 1)] or "the set")


def _poses(gltf: Gltf, chain: list[int]) -> Callable[[Array], Array]:
    tracks, _ = gltf_motion.tracks_of(gltf, chain)
    return lambda seconds: gltf_motion.world_matrices(gltf, chain, tracks, seconds)


def _triangles(gltf: Gltf, mesh: int) -> Array:
    """Corners of a mesh's triangles, in its own frame. What is no triangle is left out. (T, 3, 3)."""
    out: list[Array] = [np.empty((0, 3, 3))]
    for p, primitive in enumerate(gltf.json.meshes[mesh].primitives if mesh < len(gltf.json.meshes) else ()):
        where = f"meshes[{mesh}].primitives[{p}]"
        if primitive.mode != _TRIANGLES or "POSITION" not in primitive.attributes:
            continue
        places = gltf_file.floats(gltf, primitive.attributes["POSITION"], "VEC3", f"{where}.attributes.POSITION")
        order = (
            np.arange(len(places))
            if primitive.indices is None
            else gltf_file.whole_numbers(gltf, primitive.indices, f"{where}.indices")
        )
        if len(order) and order.max() >= len(places):
            raise FormatError(f"an index refers to item {int(order.max())} of {len(places)}", f"{where}.indices")
        out.append(places[order[: len(order) // 3 * 3]].reshape(-1, 3, 3))
    return np.concatenate(out)
