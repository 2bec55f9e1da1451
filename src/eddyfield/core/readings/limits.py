"""From when on something is told: what a production may set for all of its scenes, and how strictly that is taken."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import asdict, dataclass, replace
from typing import Literal, NamedTuple, get_args

from ..errors import DomainError

Strictness = Literal["rough", "usual", "final"]
STRICTNESSES: tuple[Strictness, ...] = get_args(Strictness)
_TIMES: dict[Strictness, float] = {"rough": 2.0, "usual": 1.0, "final": 0.7}
"""While poses are still rough, twice as much goes unsaid; before something is final, less does."""
STRICTNESS_TITLES: dict[Strictness, str] = {"rough": "as rough work", "usual": "as usual", "final": "as final"}
STRICTNESS_MEANINGS: dict[Strictness, str] = {
    "rough": f"Poses are still rough: {_TIMES['rough']:g} times the limit may pass.",
    "usual": "The limits as they stand.",
    "final": f"Before it is final: from {_TIMES['final']:g} of the limit on.",
}
"""What people read."""


@dataclass(frozen=True)
class Limits:
    """``*_permille`` are of the frame's height, ``*_share`` of what their title says."""

    arc_permille: float = 1.5
    slip_permille: float = 1.0
    slide_m: float = 0.03
    off_ground_m: float = 0.01
    drift_share: float = 0.15
    joint_cut_share: float = 0.012
    head_hidden_share: float = 0.25
    body_hidden_share: float = 0.5
    bob_permille: float = 4.0
    chord_share: float = 0.15
    crossing_seconds: float = 7.0
    blur_circles: float = 2.0
    short_shot_frames: float = 12.0
    jump_cut_deg: float = 30.0
    place_jump_share: float = 0.4

    def __post_init__(self) -> None:
        for kind in LIMITS:
            value = getattr(self, kind.name)
            if not (math.isfinite(value) and kind.least <= value <= kind.most):
                raise DomainError(
                    f"“{kind.title}” cannot be {value:g}.",
                    f"Give from {kind.least:g} to {kind.most:g}.",
                )

    def at(self, strictness: Strictness) -> Limits:
        """As they are taken: for all that is told when it exceeds its limit a larger one, for the rest a smaller one."""
        times = _TIMES[strictness]
        if times == 1.0:
            return self
        scaled = {
            kind.name: min(
                kind.most, max(kind.least, getattr(self, kind.name) * (times if kind.told_above else 1 / times))
            )
            for kind in LIMITS
        }
        return replace(self, **scaled)

    def having(self, values: Mapping[str, float]) -> Limits:
        """With some of them set. Raises ``DomainError`` for one that there is not, or that cannot be."""
        unknown = next((name for name in values if name not in NAMES), None)
        if unknown is not None:
            raise DomainError(f"There is no limit “{unknown}”.", f"Limits are {', '.join(sorted(NAMES))}.")
        return replace(self, **values)

    def changed(self) -> dict[str, float]:
        """Those that are not as usual."""
        usual = asdict(USUAL)
        return {name: value for name, value in asdict(self).items() if value != usual[name]}


class LimitKind(NamedTuple):
    """One of them: what is told from there on; ``told_above`` it, else below. ``of`` says what a share is of."""

    name: str
    title: str
    unit: str
    of: str
    least: float
    most: float
    told_above: bool = True


LIMITS = (
    LimitKind("arc_permille", "off the arc, hitch, pop", "‰", "of the height", 0.5, 50),
    LimitKind("slip_permille", "slip of held poses", "‰", "of the height", 0.1, 50),
    LimitKind("slide_m", "slide of a planted foot", "m", "", 0.001, 1),
    LimitKind("off_ground_m", "foot below or above its ground", "m", "", 0.001, 0.079),
    LimitKind("drift_share", "growth of a held subject", "", "of its size", 0.01, 2),
    LimitKind("joint_cut_share", "frame's edge near a joint", "", "of the height", 0.001, 0.1, False),
    LimitKind("head_hidden_share", "head hidden", "", "of its points", 0.05, 1),
    LimitKind("body_hidden_share", "body hidden", "", "of its points", 0.05, 1),
    LimitKind("bob_permille", "bob of what a camera goes by", "‰", "of the height", 0.5, 100),
    LimitKind("chord_share", "chord through a circle", "", "of the distance", 0.02, 0.9),
    LimitKind("crossing_seconds", "background crosses the frame in less than", "s", "", 0.5, 60, False),
    LimitKind("blur_circles", "blur of what should be sharp", "circles", "of confusion", 1, 50),
    LimitKind("short_shot_frames", "shot shorter than", "fr", "", 1, 500, False),
    LimitKind("jump_cut_deg", "cut from less aside than", "°", "", 1, 90, False),
    LimitKind("place_jump_share", "jump of a face over a cut", "", "of the width", 0.05, 1),
)
NAMES = frozenset(kind.name for kind in LIMITS)
USUAL = Limits()
