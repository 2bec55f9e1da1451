"""What would lower the price of Ride: other ways to carry the held poses, each with what slips and what slides then."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass, replace

from ..bake import Baker
from ..content import content_key
from ..edits.edit import Edit
from ..edits.performances import RideCharacter, StepCharacter
from ..performance.character import Character
from ..performance.ride import Ride, RideWay

LOWERED = 0.9
"""Of the price: more than that is not lower."""
MOST_OFFERED = 3
WAY_TITLES: dict[RideWay, str] = {
    "rigid": "turned and carried",
    "position": "carried, not turned",
    "picture": "slid along the picture",
}
STEP_TITLES = {1: "ones", 2: "twos", 3: "threes"}


@dataclass(frozen=True)
class RidePrice:
    """One way to ride at a lower price, the edit that brings it, and what it leaves: slip of the held poses (root mean
    square, px), slide of the feet in metres and in pixels as seen."""

    title: str
    slip_px: float
    feet_slide_m: float
    feet_slide_px: float
    edit: Edit


def ride_prices(baker: Baker, character: Character) -> list[RidePrice]:
    """Up to three that lower the price of the ride it has, or of a rigid one where it has none; those first that leave the
    least to slip. Nothing where nothing is held, or no feet are known."""
    base = _base(character)
    now, still = baker.contact_price(character, base), baker.strobing(character, Ride())
    if now is None or not now.after_px > 0 or not still.rms_px > 0:
        return []
    out = []
    for title, edit, other in _others(character, base):
        price, slip = baker.contact_price(other), baker.strobing(other).rms_px
        if price is not None and price.after_px < LOWERED * now.after_px and slip < LOWERED * still.rms_px:
            out.append(RidePrice(title, slip, price.after_m, price.after_px, edit))
    return sorted(out, key=lambda price: (price.slip_px, price.feet_slide_px))[:MOST_OFFERED]


def ride_prices_key(baker: Baker, character: Character) -> str:
    """Of all that the prices depend on."""
    base = _base(character)
    parts = [baker.price_part(character, base).key, baker.strobing_part(character, Ride()).key]
    for _, _, other in _others(character, base):
        parts += [baker.price_part(other, other.ride).key, baker.strobing_part(other, other.ride).key]
    return content_key("ride prices", character.id, *parts)


def _base(character: Character) -> Ride:
    return replace(character.ride, way="rigid", weight=1.0) if character.ride.way == "off" else character.ride


def _others(character: Character, base: Ride) -> Iterator[tuple[str, Edit, Character]]:
    """Each with its title, the edit that brings it, and the character after that."""
    rides = [(title, replace(base, way=way, weight=1.0)) for way, title in WAY_TITLES.items() if way != base.way]
    rides.append((f"at {base.weight * 50:.0f} % weight", replace(base, weight=base.weight / 2)))
    for title, ride in rides:
        yield title, RideCharacter(character_id=character.id, ride=ride), replace(character, ride=ride)
    stepping = character.stepping
    if stepping.step - 1 in STEP_TITLES and stepping.step > 2 and character.ride.way != "off":
        fewer = replace(stepping, step=stepping.step - 1, offset=min(stepping.offset, stepping.step - 2))
        edit = StepCharacter(character_id=character.id, stepping=fewer)
        yield f"held on {STEP_TITLES[fewer.step]}", edit, replace(character, stepping=fewer)
