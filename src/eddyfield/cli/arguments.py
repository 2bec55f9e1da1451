"""Options that the commands share, and how their values are written."""

from __future__ import annotations

import argparse
import re
from collections.abc import Callable
from typing import Any, NoReturn, TypeVar

from eddyfield.core.errors import DomainError
from eddyfield.core.optics.lens import GATES, DeliveryFrame
from eddyfield.core.performance.exposure import Stepping
from eddyfield.core.performance.ride import RIDE_WAYS
from eddyfield.core.time.frames import Rate

Value = TypeVar("Value")
MIDDLE = (0.5, 0.5)


class UsageError(DomainError):
    """The command line cannot be understood."""


class OneLineParser(argparse.ArgumentParser):
    """Says what is wrong in one line, by raising ``UsageError``."""

    def __init__(self, **kwargs: Any) -> None:
        super().__init__(**{"allow_abbrev": False, **kwargs})

    def error(self, message: str) -> NoReturn:
        raise UsageError(message[0].upper() + message[1:] + ".", f"See {self.prog} --help.")

    def parse(self, words: list[str]) -> argparse.Namespace:
        """Parse, taking the word after an option as its value even if it begins with a minus."""
        taking = {o for a in self._actions for o in a.option_strings if a.nargs is None and o.startswith("--")}
        joined: list[str] = []
        waiting = iter(words)
        for word in waiting:
            following = next(waiting, None) if word in taking else None
            joined.append(word if following is None else f"{word}={following}")
        return self.parse_args(joined)


def checked(read: Callable[[str], Value]) -> Callable[[str], Value]:
    """Let argparse report what a reader of values refuses."""

    def convert(text: str) -> Value:
        try:
            return read(text)
        except (DomainError, ValueError, OverflowError) as error:
            raise argparse.ArgumentTypeError(str(error).rstrip(".")) from None

    return convert


def vector(text: str) -> tuple[float, float, float]:
    numbers = [finite(part) for part in text.split(",")]
    if len(numbers) != 3:
        raise ValueError(f"“{text}” should be three numbers such as 0,1.5,4")
    return numbers[0], numbers[1], numbers[2]


def pair(text: str) -> tuple[float, float]:
    numbers = [finite(part) for part in text.split(",")]
    if len(numbers) != 2:
        raise ValueError(f"“{text}” should be two numbers such as 0.5,0.4")
    return numbers[0], numbers[1]


def finite(text: str) -> float:
    try:
        number = float(text)
    except ValueError:
        raise ValueError(f"“{text}” is no number") from None
    if not abs(number) < 1e12:
        raise ValueError(f"“{text}” is not a usable number")
    return number


def positive(text: str) -> float:
    number = finite(text)
    if number <= 0:
        raise ValueError(f"“{text}” has to be above 0")
    return number


def whole(text: str) -> int:
    if not re.fullmatch(r"[+-]?\d{1,9}", text.strip()):
        raise ValueError(f"“{text}” is no whole number")
    return int(text)


def frame_list(text: str) -> tuple[int, ...]:
    """Frames between commas, in order."""
    return tuple(whole(part) for part in text.split(","))


def stepping_of(options: argparse.Namespace) -> Stepping:
    """How poses are held by the options. Raises ``DomainError``."""
    return Stepping(1 if options.step is None else options.step, options.offset, starts=options.exposures)


def size(text: str) -> DeliveryFrame:
    match = re.fullmatch(r"(\d{1,6})[xX×](\d{1,6})", text.strip())
    if not match:
        raise ValueError(f"“{text}” should be written as 1920x1080")
    return DeliveryFrame(int(match[1]), int(match[2]))


def back(text: str) -> tuple[float, float]:
    parts = re.split(r"[xX×]", text.strip())
    if len(parts) != 2:
        raise ValueError(f"“{text}” should be written as 36x24")
    return positive(parts[0]), positive(parts[1])


def names(text: str) -> tuple[str, ...]:
    r"""Names between commas; a comma in a name is written ``\,``."""
    found = [re.sub(r"\\,", ",", part) for part in re.split(r"(?<!\\),", text)]
    if not all(found):
        raise ValueError(f"“{text}” has an empty name")
    return tuple(found)


def add_file_options(parser: argparse.ArgumentParser) -> None:
    """FILE, camera, timing and joints: what ``tracks`` and ``strobe`` have in common."""
    parser.add_argument("file", metavar="FILE", help="a .glb, .gltf, .bvh, or .usd, .usda, .usdc, .usdz")
    camera = parser.add_argument_group("camera, from the file or by numbers")
    camera.add_argument("--camera", metavar="NAME", help="a camera of the file: its node's name, else its own")
    camera.add_argument("--at", metavar="X,Y,Z", type=checked(vector), help="where the camera stands, metres")
    camera.add_argument("--look", metavar="X,Y,Z", type=checked(vector), help="the point it looks at, metres")
    camera.add_argument("--up", metavar="X,Y,Z", type=checked(vector), help="what is up in the picture (0,1,0)")
    camera.add_argument("--focal", metavar="MM", type=checked(positive), help="focal length")
    camera.add_argument("--back", metavar="WxH", type=checked(back), help="film back in mm (36x24)")
    camera.add_argument("--gate", choices=GATES, help="how the frame is taken from the back (crop)")
    camera.add_argument("--size", metavar="WxH", type=checked(size), default=DeliveryFrame(), help="frame (1920x1080)")
    camera.add_argument("--squeeze", metavar="Q", type=checked(positive), help="of an anamorphic lens (1)")
    camera.add_argument("--shift", metavar="X,Y", type=checked(pair), help="lens shift, fractions of the frame (0,0)")
    camera.add_argument("--near", metavar="M", type=checked(positive), help="near plane, metres (0.01)")
    camera.add_argument(
        "--pixel-aspect", metavar="P", type=checked(positive), default=1.0, help="of the frame's pixels (1)"
    )
    rigging = parser.add_argument_group("aim and framing lock, on top of the camera")
    rigging.add_argument("--aim", metavar="JOINT", help="turn towards a joint on every frame")
    rigging.add_argument("--hold", metavar="JOINT", help="turn so that a joint stays at its place in the frame")
    rigging.add_argument(
        "--place", metavar="X,Y", type=checked(pair), default=MIDDLE, help="that place, shares of the frame (0.5,0.5)"
    )
    rigging.add_argument(
        "--hold-body", metavar="SHARE", type=checked(positive), help="hold the whole body, at this share of the height"
    )
    rigging.add_argument("--by", choices=("dolly", "zoom"), default="dolly", help="how its size is held (dolly)")
    timing = parser.add_argument_group("timing")
    timing.add_argument(
        "--fps", metavar="N", type=checked(Rate.parse), default=Rate.parse("24"), help="24, 24000/1001 ..."
    )
    timing.add_argument("--start", metavar="N", type=checked(whole), default=1, help="frame of the file's time 0 (1)")
    timing.add_argument("--first", metavar="F", type=checked(whole), help="first frame (start)")
    timing.add_argument("--last", metavar="F", type=checked(whole), help="last frame, included (the motion's last)")
    subject = parser.add_argument_group("subject")
    subject.add_argument(
        "--joints", metavar="a,b|all", type=checked(names), default=("all",), help="joints by name (all)"
    )
    subject.add_argument("--rig", metavar="NAME", help="which of the rigs of a file that holds several")
    subject.add_argument("--animation", metavar="NAME", help="which animation of the file is played")
    subject.add_argument(
        "--scale", metavar="S", type=checked(positive), help="metres per unit of the file (1; BVH 0.01)"
    )
    subject.add_argument("--offsets", choices=("auto", "add", "replace"), default="auto", help="BVH position channels")


def add_stepping_options(parser: argparse.ArgumentParser, always_stepped: bool) -> argparse._ArgumentGroup:
    """How poses are held and carried, and what touches the ground."""
    stepping = parser.add_argument_group("stepping and Ride")
    held = stepping.add_mutually_exclusive_group(required=always_stepped)
    by_default = "" if always_stepped else " (1)"
    held.add_argument("--step", metavar="N", type=checked(whole), help=f"hold poses on N frames{by_default}")
    held.add_argument(
        "--exposures", metavar="FRAMES", type=checked(frame_list), help="the frames on which a new pose is shown"
    )
    stepping.add_argument("--offset", metavar="K", type=checked(whole), default=0, help="move the grid by K frames (0)")
    stepping.add_argument(
        "--ride", choices=RIDE_WAYS, default="off", help="carry held poses along with the camera (off)"
    )
    stepping.add_argument("--anchor", metavar="JOINT", help="what is carried (the first animated root)")
    stepping.add_argument("--plant", action="store_true", help="feet stay where they stand while the body rides")
    stepping.add_argument("--contacts", metavar="JOINTS", type=checked(names), help="feet, over ground at y = 0")
    return stepping
