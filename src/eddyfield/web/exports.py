"""Taking a shot out: the arc and the slip as CSV, and the shot as .glb."""

from __future__ import annotations

from dataclasses import asdict

import numpy as np

from eddyfield.core.arrays import Floats, Ints
from eddyfield.core.bake import Baker
from eddyfield.core.cut.shots import shots_of
from eddyfield.core.performance.carried import Carried
from eddyfield.core.performance.character import Character
from eddyfield.core.performance.nested import ground_of
from eddyfield.core.performance.placing import AS_IN_FILE, world_from_file
from eddyfield.core.rig import transforms
from eddyfield.core.rig.mesh_points import followed_on
from eddyfield.core.rig.rig import Rig
from eddyfield.core.scene import Scene
from eddyfield.formats.csv_tables import cell, table
from eddyfield.formats.gltf.shot import ShotCamera, ShotCharacter, notes_on, write_shot

from .cut_answers import CutList, ListedShot
from .thing_views import at_source_part


def arc_csv(baker: Baker, thing_id: str, joint: str, frozen_frame: int | None = None) -> str:
    """The track of a joint, or a point on the mesh, through the cut, or frozen on one frame's camera: a row a frame."""
    thing = baker.scene.thing(thing_id)
    node = followed_on(baker.rig(thing), joint)
    frames = baker.scene.frames
    frozen = None if frozen_frame is None or frozen_frame not in frames else frozen_frame - frames.first
    arc = baker.arc(thing, node, None, frozen)
    judgement = baker.judged_arc(thing, node, None, frozen).judgement
    starts = baker.exposure_starts(thing) if isinstance(thing, Character) else frames.frames()
    return table(
        {
            "frame": frames.frames(),
            "exposure_start": starts,
            "x_px": arc.pixels[:, 0],
            "y_px": arc.pixels[:, 1],
            "spacing_px": arc.spacing_px,
            "subject_share_px": arc.subject_px,
            "camera_share_px": arc.camera_px,
            "off_arc_px": judgement.off_arc,
            "off_spacing_px": judgement.off_spacing,
            "least_tellable_px": judgement.least,
        }
    )


def slip_csv(baker: Baker, character_id: str) -> str:
    """Slip of the shown performance through the cut: a row a frame."""
    character = baker.scene.character(character_id)
    found = baker.strobing(character)
    reversals = np.isin(baker.scene.frames.frames(), found.reversals)
    return table(
        {
            "frame": baker.scene.frames.frames(),
            "exposure_start": baker.exposure_starts(character),
            "slip_px": found.slip_px,
            "slip_permille": found.slip_permille,
            "reversal": reversals.astype(np.int64),
        }
    )


CORRECTION_COLUMNS = (
    "frame,first,last,rests,joint,world_x_mm,world_y_mm,world_z_mm,"
    "changed_joint,turn_x_deg,turn_y_deg,turn_z_deg,shift_x_mm,shift_y_mm,shift_z_mm"
)


def corrections_csv(baker: Baker, character_id: str) -> str:
    """What to change at the source of a performance: of every correction a row for each joint that it changes, turned and moved
    in the axes of what that hangs on, with the shift of the corrected joint in the world."""
    rows = [CORRECTION_COLUMNS]
    for told in baker.value(at_source_part(baker, baker.scene.character(character_id))):
        when = ["" if f is None else str(f) for f in (told.frame, told.first, told.last)]
        world = [f"{1000 * v:.3f}" for v in told.shift_m]
        for change in told.changes:
            own = [*(f"{v:.4f}" for v in change.turn_deg), *(f"{1000 * v:.3f}" for v in change.shift_m)]
            rows.append(",".join([*when, str(int(told.rests)), cell(told.joint), *world, cell(change.joint), *own]))
    return "\n".join(rows) + "\n"


def shot_glb(baker: Baker) -> bytes:
    """The cameras of the cut baked on ones, and every character and prop as shown: stepped and riding, held by STEP samplers."""
    return write_shot(_cameras(baker), _performers(baker), baker.scene.rate, _transitions(baker))


def shot_notes(baker: Baker) -> list[str]:
    """What a .glb cannot carry of this shot."""
    return notes_on(_cameras(baker), _performers(baker), _transitions(baker))


def _transitions(baker: Baker) -> dict[int, dict[str, str | int]]:
    return {shot.first: asdict(shot.transition) for shot in baker.shots if shot.mix}


def _cameras(baker: Baker) -> list[ShotCamera]:
    scene = baker.scene
    return [
        ShotCamera(c.name, baker.camera_path(c), tuple(scene.frames_of_cut(c)), c.glass.far_m)
        for c in scene.cameras_of_cut
    ]


def _performers(baker: Baker) -> list[ShotCharacter]:
    out = []
    for character in baker.scene.characters:
        rows = baker.exposure_starts(character) - baker.scene.frames.first
        rides = character.ride.way != "off"
        carried_by = baker.carried(character)
        carried = carried_by.whole if rides else None
        if character.placing != AS_IN_FILE or character.nested:  # the rig is asked for its poses as its file has them
            placed = world_from_file(character.placing, baker.scene.frames, ground_of(character.nested))
            at = placed[rows] if len(placed) > 1 else placed
            carried = at + np.zeros((len(rows), 1, 1)) if carried is None else carried @ at
        rig, timing = baker.rig(character), character.performance.timing
        seconds = timing.file_seconds(baker.exposure_starts(character), baker.rate, rig.motion.duration_seconds)
        bent = _corrected_joints(baker, character, rows)
        above = np.broadcast_to(np.eye(4), (len(rows), 4, 4)) if carried is None else carried
        bent |= _carried_apart(rig, carried_by, above, baker.world(character)[rows])
        out.append(ShotCharacter(character.name, rig, seconds, rows, carried, bent))
    frames = baker.frames.frames()
    for prop in [piece for piece in baker.scene.pieces if piece.kind == "prop"]:
        rig, shown, timing = baker.rig(prop), baker.shown_piece(prop), prop.performance.timing
        seconds = timing.file_seconds(frames[shown.rows], baker.rate, rig.motion.duration_seconds)
        out.append(ShotCharacter(prop.name, rig, seconds, shown.rows, shown.carried + np.zeros((len(frames), 1, 1))))
    return out


def _corrected_joints(baker: Baker, character: Character, rows: Ints) -> dict[int, Floats]:
    """Local matrices (frames, 4, 4) of the joints that corrections change, by their nodes."""
    rig, corrections = baker.rig(character), character.performance.corrections
    joints = {change.joint for correction in corrections if not correction.rests(rig) for change in correction.changes}
    if not joints:
        return {}
    placed = world_from_file(character.placing, baker.scene.frames, ground_of(character.nested))
    in_file = (np.linalg.inv(placed)[:, None] @ baker.world(character))[rows]
    above_roots = np.diag([rig.scale, rig.scale, rig.scale, 1.0])
    return {
        node: np.linalg.inv(in_file[:, rig.parents[node]] if rig.parents[node] >= 0 else above_roots) @ in_file[:, node]
        for node in sorted(rig.index_of[joint] for joint in joints)
    }


def _carried_apart(rig: Rig, carried_by: Carried, above: Floats, world: Floats) -> dict[int, Floats]:
    """Local matrices (frames, 4, 4), turned and moved alone, of the joints that are carried otherwise than the whole, by their
    nodes: below what carries the whole rig (``above``, out of the axes of its file), of poses ``world`` (frames, nodes, 4, 4).
    Under a ride that scales a turn is the nearest one; every joint is where it is shown."""
    if carried_by.is_whole:
        return {}
    shown = np.linalg.inv(above)[:, None] @ carried_by.of_nodes(np.arange(len(rig.names))) @ world
    written, out = shown.copy(), {}
    for node in (int(n) for level in rig.levels for n in level if carried_by.group_of[n] >= 0):
        parent = int(rig.parents[node])
        local = np.linalg.inv(written[:, parent]) @ shown[:, node]
        own = np.linalg.inv(world[:, parent]) @ world[:, node]
        scale = np.linalg.norm(own[:, :3, :3], axis=1)
        out[node] = transforms.rigid(transforms.orthonormal(local)[:, :3, :3], local[:, :3, 3])
        written[:, node] = written[:, parent] @ out[node] @ _scaled(scale)
    return out


def _scaled(scale: Floats) -> Floats:
    """Matrices (frames, 4, 4) of scales (frames, 3)."""
    out = np.zeros((len(scale), 4, 4))
    out[:, [0, 1, 2], [0, 1, 2]], out[:, 3, 3] = scale, 1.0
    return out


def cut_list(scene: Scene) -> CutList:
    """The shots of the cut, in order."""
    shots = [
        ListedShot(
            name=shot.title, camera=scene.camera(shot.camera_id).name, first=shot.first, last=shot.last,
            frames=shot.count, seconds=round(shot.seconds(scene.rate), 6), transition=shot.transition.kind if shot.mix else "cut",
            transition_frames=len(shot.mix.shares) if shot.mix else 0, state=shot.state,
            handle_before=shot.handles.before, handle_after=shot.handles.after,
            note=shot.note,
        )
        for shot in shots_of(scene.cut, scene.frames)
    ]  # fmt: skip
    return CutList(shots=shots)
