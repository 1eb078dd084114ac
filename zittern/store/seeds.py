"""The only use of real randomness: the seed of a new shot. The core has no random state."""

from __future__ import annotations

import secrets

from zittern.core.shot.shot import Shot

__all__ = ["newly_seeded"]

_SEED_BITS = 53


def newly_seeded(shot: Shot) -> Shot:
    """Return a shot as a new one: seeds of further layers are drawn from a new seed.

    The layers that it has keep theirs, so a copy moves alike.
    """
    return shot.replace(seed=secrets.randbits(_SEED_BITS), seeds_drawn=0)
