"""From when on something is told: every threshold of the readings, in one table."""

from __future__ import annotations

# Arcs
OFF_ARC_PERMILLE = 1.5
"""Of the frame's height: a frame off the arc or off its spacing, a hitch, a pop."""
SURE_ERRORS = 7.0
"""How many of its own standard errors a fault has to exceed."""
GREATEST_LIMIT_SHARE = 0.01
"""Of the frame's height: where only more than that could be told of an arc, nothing can be."""

# Performances
STROBE_PERMILLE = 1.0
"""Of the frame's height: slip of a held pose."""
SLIDE_M = 0.03
"""A planted foot that leaves its place."""
OFF_GROUND_M, STILL_ON_GROUND_M = 0.01, 0.08
"""How far a resting foot is below or above where it mostly rests: from the one on it sinks or hovers; by the other it stands on
something else."""

# Framing, in shares of the frame unless said otherwise
MOST_OF_THE_BODY = {"head": 0.5, "feet": 0.8}
"""Share of the body that is in the frame while a part should be as well: a figure cut at the knees has no feet to lose."""
NO_HEAD = 0.1
"""Of a body that lies outside a frame in which no head is: any more hurts in proportion."""
CUT_WITHIN = 0.012
"""Of the height: how near to the edge a joint has to lie for the edge to cut at it."""
TRAVELS_A_SECOND = 0.1
"""Of the width a second: from there on lead room goes by the travel, not by the face."""
LARGE_FIGURE = 0.55
"""Of the height: a smaller figure has sky above it by intent."""
DRIFT_RATIO = 1.15
HEAD_HIDDEN, BODY_HIDDEN = 0.25, 0.5
"""Of the points of the head, or of the body, that lie behind something."""

MOST_INSIDE, HARDLY_INSIDE = 0.5, 0.1
"""Of the body: a frame's edge is crossed between a row on which more is in the frame, and one on which less is."""
LEAST_TRAVEL = 0.02
"""Of the width in half a second: less is no travel across an edge."""

# The cut
SHORT_SHOT_FRAMES = 12
AFTER_MARK_FRAMES = 12
"""A line or an action that begins so many frames before a cut belongs to the shot after it."""
JUMP_CUT_DEG, ALIKE_SIZES = 30.0, 1.25
"""A cut hops where the camera comes from less than the one aside and the subject is less than so many times larger or smaller."""
NEAR_THE_LINE_M = 0.1
PLACE_JUMP, SMALL_TURN_DEG = 0.4, 12.0
"""Of the width: how far the only subject that goes on over a cut may be from where it was; and what turn mends it."""
FOLLOWED = 0.5
"""Of the background's speed: who crosses the frame no faster is gone along with."""
STILL_PERMILLE, MOVING_PERMILLE = 0.5, 4.0
"""Of the frame's height a frame: a picture that moves less stands, one that moves more is on the move."""
UNDER_WAY_FRAMES = 24
"""A move that begins so soon after a cut can begin before it."""

# Lens and rigging
BLUR_CIRCLES = 2.0
"""Circles of confusion: a subject that is blurred by more is soft."""
REACHED_PX, REACHED_SIZE = 1e-3, 1e-3
STILL_M, TRAVELS_M = 0.02, 0.3
"""A joint that moves less than the one while its body moves more than the other is the wrong one to go by."""
BOB_PERMILLE, BOB_RATIO = 4.0, 1.5
"""Of the frame's height, and how many times that of a calmer joint."""
CHORD_SHARE = 0.15
"""How much nearer than at both ends a camera comes between two keys."""
SEEN_CHANGE_PX = 0.05
"""What a joint may be beside where another version has it, and still be called the same."""
