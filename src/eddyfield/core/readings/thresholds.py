"""From when on something is told, where a production has no say in it (``limits.py`` has what it may set)."""

from __future__ import annotations

# Arcs
SURE_ERRORS = 7.0
"""How many of its own standard errors a fault has to exceed."""
GREATEST_LIMIT_SHARE = 0.01
"""Of the frame's height: where only more than that could be told of an arc, nothing can be."""

# Performances
STILL_ON_GROUND_M = 0.08
"""How far a resting foot is below or above where it mostly rests: by that it stands on something else."""

# Framing, in shares of the frame unless said otherwise
MOST_OF_THE_BODY = {"head": 0.5, "feet": 0.8}
"""Share of the body that is in the frame while a part should be as well: a figure cut at the knees has no feet to lose."""
NO_HEAD = 0.1
"""Of a body that lies outside a frame in which no head is: any more hurts in proportion."""
TRAVELS_A_SECOND = 0.1
"""Of the width a second: from there on lead room goes by the travel, not by the face."""
LARGE_FIGURE = 0.55
"""Of the height: a smaller figure has sky above it by intent."""

MOST_INSIDE, HARDLY_INSIDE = 0.5, 0.1
"""Of the body: a frame's edge is crossed between a row on which more is in the frame, and one on which less is."""
LEAST_TRAVEL = 0.02
"""Of the width in half a second: less is no travel across an edge."""

# The cut
AFTER_MARK_FRAMES = 12
"""A line or an action that begins so many frames before a cut belongs to the shot after it."""
ALIKE_SIZES = 1.25
"""A cut hops where the camera comes from little aside and the subject is less than so many times larger or smaller."""
NEAR_THE_LINE_M = 0.1
SMALL_TURN_DEG = 12.0
"""What turn mends it where the only subject that goes on over a cut is not where it was."""
FOLLOWED = 0.5
"""Of the background's speed: who crosses the frame no faster is gone along with."""
STILL_PERMILLE, MOVING_PERMILLE = 0.5, 4.0
"""Of the frame's height a frame: a picture that moves less stands, one that moves more is on the move."""
UNDER_WAY_FRAMES = 24
"""A move that begins so soon after a cut can begin before it."""

# Lens and rigging
REACHED_PX, REACHED_SIZE = 1e-3, 1e-3
STILL_M, TRAVELS_M = 0.02, 0.3
"""A joint that moves less than the one while its body moves more than the other is the wrong one to go by."""
BOB_RATIO = 1.5
"""How many times that of a calmer joint a joint bobs."""
SEEN_CHANGE_PX = 0.05
"""What a joint may be beside where another version has it, and still be called the same."""
