"""Whether a fix mends what it stands beside, and raises nothing else: over the demo's scene and spoilt shots of the kinds that
have one."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field

import numpy as np

from eddyfield.core.bake import Baker
from eddyfield.core.readings.compared import compared
from eddyfield.core.readings.reading import Reading
from eddyfield.core.readings.scene_readings import scene_readings
from eddyfield.demo import mill_race

from . import bodies, framing

RAISED = ("new", "worse")
OF_KINDS = ("strobes", "chord", "size_hitch")


@dataclass
class Mended:
    """Of fixes by title: how many were taken, how many cleared their reading, and what they raised or made worse, by kind: what
    the shot has without its fault as well was only covered by it, and is counted by itself."""

    taken: Counter[str] = field(default_factory=Counter)
    cleared: Counter[str] = field(default_factory=Counter)
    raised: dict[str, Counter[str]] = field(default_factory=dict)
    uncovered: dict[str, Counter[str]] = field(default_factory=dict)


def run(shots: int) -> Mended:
    """Every fix that the demo's readings and those of so many spoilt shots of each kind offer, each taken by itself."""
    out = Mended()
    for baker, unspoilt in _spoilt_scenes(shots):
        before = _told(baker)
        own = _told(unspoilt) if unspoilt else before
        for reading in before:
            for fix in reading.fixes:
                after = _told(baker.of(fix.edit.apply(baker.scene, baker)))
                out.taken[fix.title] += 1
                changes = compared(before, after)
                out.cleared[fix.title] += any(c.before == reading and c.after is None for c in changes)
                made = {id(c.after) for c in compared(own, after) if c.status in RAISED}
                for change in changes:
                    if change.status in RAISED:
                        counted = out.raised if id(change.after) in made else out.uncovered
                        counted.setdefault(fix.title, Counter())[change.reading.kind] += 1
    return out


def _spoilt_scenes(shots: int) -> Iterator[tuple[Baker, Baker | None]]:
    """Each with the same without its fault, where there is that."""
    digests = {letter * 64: name for letter, name in zip("abcd", mill_race.OF_CROSSING, strict=True)}
    crossing = mill_race.scene(*digests)
    rigs = {digest: mill_race.demo_rig(name) for digest, name in digests.items()}
    yield Baker(crossing, lambda source: rigs[source.digest], {}), None
    rng = np.random.default_rng(9)
    for kind in OF_KINDS:
        for _ in range(shots):
            shot = framing.spoilt(rng, kind)
            if shot is not None:
                yield framing.baker_of(shot), framing.baker_of(shot.unspoilt) if shot.unspoilt else None
    for kind in bodies.KINDS:
        for _ in range(shots):
            yield bodies.spoilt(rng, kind), bodies.unspoilt()


def _told(baker: Baker) -> list[Reading]:
    def refuse(subject: str, error: Exception) -> None:
        raise error

    return [r for r in scene_readings(baker, None, None, refuse) if not r.remark]


def table(shots: int, show: Callable[[str], None] = print) -> None:
    mended = run(shots)
    for title, taken in mended.taken.items():
        made, uncovered = (
            ", ".join(f"{kind} in {count}" for kind, count in counted.get(title, Counter()).most_common()) or "nothing"
            for counted in (mended.raised, mended.uncovered)
        )
        show(
            f"{title:14} cleared {mended.cleared[title]:3} of {taken:3}; made new or worse: {made}; uncovered: {uncovered}"
        )
