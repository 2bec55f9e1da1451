"""Two pictures that are looked at together: both sides of a cut, or two cameras over each other."""

from __future__ import annotations

from eddyfield.core.bake import Baker
from eddyfield.core.cameras.camera import Camera
from eddyfield.core.content import content_key
from eddyfield.core.readings.matching import match_at
from eddyfield.core.readings.two_cameras import two_cameras

from .camera_views import floats
from .thing_views import Offer
from .two_picture_parts import MatchPart, SubjectInTwo, TwoCamerasPart


def offer_match(baker: Baker, first: int | None, offer: Offer) -> str | None:
    """The part with both sides of a cut; None where no shot begins there any more."""
    if first is None or all(shot.first != first for shot in baker.shots[1:]):
        return None
    scene = baker.scene
    cameras = {camera_id: baker.camera_part(scene.camera(camera_id)).key for camera_id in scene.cut.camera_ids}
    key = content_key("match", first, scene.cut.content, scene.frames, scene.delivery, cameras, _shown(baker))
    return offer(key, lambda: MatchPart(match=match_at(baker, first)))


def offer_two_cameras(baker: Baker, through: Camera | None, laid_over: str | None, offer: Offer) -> str | None:
    """The part with what the camera ``laid_over`` makes of what is looked at; None where there is no such camera."""
    index = baker.scene.camera_indices.get(laid_over or "")
    if index is None:
        return None
    one, other = baker.path_part(through), baker.path_part(baker.scene.cameras[index])
    key = content_key("two cameras", one.key, other.key, baker.frames, baker.limits.jump_cut_deg, _shown(baker))

    def make() -> TwoCamerasPart:
        found = two_cameras(baker, baker.value(one), baker.value(other))
        subjects = [
            SubjectInTwo(
                character_id=of.character_id, name=of.name, one_px=floats(of.one_px), other_px=floats(of.other_px),
                apart_px=floats(of.apart_px), aside_deg=floats(of.aside_deg), times_as_large=floats(of.times_as_large),
                hops=of.hops.astype("uint8"), nearest_frame=of.nearest_frame,
            )
            for of in found.subjects
        ]  # fmt: skip
        background = floats(found.background_one_px), floats(found.background_other_px)
        return TwoCamerasPart(subjects=subjects, background_one_px=background[0], background_other_px=background[1])

    return offer(key, make)


def _shown(baker: Baker) -> list[tuple[str, str]]:
    return [(character.name, baker.shown_key(character)) for character in baker.scene.characters]
