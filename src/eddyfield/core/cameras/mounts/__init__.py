"""How a camera is carried. Each mount says, from channels and subjects, where its head is: ``world_from_mount`` for every
frame. The camera's own place and angles are measured from that head."""

from .base import MountFrames, Values
from .carried import Carried, attached
from .crane import Crane
from .free import Free
from .orbit import Orbit
from .rail import Bump, Rail
from .trailing import Trailing

Mount = Free | Rail | Crane | Orbit | Carried | Trailing

__all__ = [
    "Bump",
    "Carried",
    "Crane",
    "Free",
    "Mount",
    "MountFrames",
    "Orbit",
    "Rail",
    "Trailing",
    "Values",
    "attached",
]
