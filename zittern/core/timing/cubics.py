"""Segments of keyed curves as cubics in the plane of frames and values: cut in parts (de Casteljau 1959)."""

from __future__ import annotations

from zittern.core.numbers.curves import Handle, Key

__all__ = ["Cubic", "Point", "folded", "halves", "handle_to", "middle_of_fold", "share_at", "within"]

# Number of bisections for a point on a cubic's abscissa: enough for all digits of a double.
_HALVINGS = 60
Point = tuple[float, float]
Cubic = tuple[Point, Point, Point, Point]


def folded(points: Cubic) -> bool:
    """Return whether its handles overlap."""
    return points[2][0] < points[1][0]


def middle_of_fold(points: Cubic) -> float:
    """Return the parameter at the inflection of the abscissa: both parts have ordered handles."""
    x0, x1, x2, x3 = (point[0] for point in points)
    bends, unbends = x2 - 2.0 * x1 + x0, x3 - 2.0 * x2 + x1
    return bends / (bends - unbends)


def within(left: Key, right: Key, out: Handle, into: Handle) -> Cubic:
    """Control points of a segment; a handle that is longer than it ends there, with its slope kept."""
    gap = right.frame - left.frame

    def end(key: Key, handle: Handle, side: float) -> Point:
        reach = side * handle[0]
        share = 1.0 if reach <= gap else gap / reach
        return key.frame + side * max(reach, 0.0) * share, key.value + handle[1] * share

    return (left.frame, left.value), end(left, out, 1.0), end(right, into, -1.0), (right.frame, right.value)


def share_at(points: Cubic, frame: float) -> float:
    """Return the parameter at which the monotonic abscissa of a cubic is a frame."""
    x0, x1, x2, x3 = (point[0] for point in points)
    a, b, c = x3 - x0 + 3.0 * (x1 - x2), 3.0 * (x0 - 2.0 * x1 + x2), 3.0 * (x1 - x0)
    low, high = 0.0, 1.0
    for _ in range(_HALVINGS):
        middle = 0.5 * (low + high)
        if ((a * middle + b) * middle + c) * middle + x0 < frame:
            low = middle
        else:
            high = middle
    return 0.5 * (low + high)


def halves(points: Cubic, share: float) -> tuple[Cubic, Cubic]:
    """Both parts of a cubic that is cut so far along."""

    def between(one: Point, other: Point) -> Point:
        return one[0] + (other[0] - one[0]) * share, one[1] + (other[1] - one[1]) * share

    a, b, c, d = points
    ab, bc, cd = between(a, b), between(b, c), between(c, d)
    abc, bcd = between(ab, bc), between(bc, cd)
    middle = between(abc, bcd)
    return (a, ab, abc, middle), (middle, bcd, cd, d)


def handle_to(key: Point, point: Point) -> Handle:
    """Return the handle from a key to a control point."""
    return point[0] - key[0], point[1] - key[1]
