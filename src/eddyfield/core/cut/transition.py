"""How one shot gives way to the next: at once, or over some frames that show both."""

from __future__ import annotations

import re
from dataclasses import dataclass
from typing import Literal, get_args

from ..errors import DomainError
from ..time.ease import Ease, check_ease

TransitionKind = Literal["cut", "dissolve", "dip", "blend"]
TRANSITION_KINDS: tuple[TransitionKind, ...] = get_args(TransitionKind)
LONGEST_TRANSITION = 1000
_COLOUR = re.compile(r"#[0-9a-f]{6}")


@dataclass(frozen=True)
class Transition:
    """How a shot begins. ``dissolve`` shows the pictures of both cameras over each other, ``dip`` goes to a ``colour`` and
    back, ``blend`` moves from the one camera to the other: place, turn, lens and focus. It takes ``frames`` frames, ``before``
    of which lie before the shot's own first frame, and changes over by ``ease``."""

    kind: TransitionKind = "cut"
    frames: int = 0
    before: int = 0
    ease: Ease = "even"
    colour: str = "#000000"

    def __post_init__(self) -> None:
        if self.kind not in TRANSITION_KINDS:
            raise DomainError(
                f"The transition “{self.kind}” is not known.", f"Choose one of {', '.join(TRANSITION_KINDS)}."
            )
        check_ease(self.ease)
        least, most = (0, 0) if self.kind == "cut" else (1, LONGEST_TRANSITION)
        if not least <= self.frames <= most:
            raise DomainError(f"A {self.kind} cannot take {self.frames} frames.", f"Give it from {least} to {most}.")
        if not 0 <= self.before <= self.frames:
            raise DomainError(
                f"{self.before} of {self.frames} frames cannot lie before the shot.", "Give from none to all of them."
            )
        if not _COLOUR.fullmatch(self.colour):
            raise DomainError(f"“{self.colour}” is not a colour.", "Write it as #rrggbb, in small letters.")


CUT = Transition()
