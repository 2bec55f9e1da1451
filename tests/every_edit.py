"""One of every kind of edit, on the demo scene, as it is asked for over HTTP; a new kind is added here, and is in all tests of
edits by that."""

from __future__ import annotations

import uuid
from hashlib import sha256
from typing import Any

from eddyfield.demo import mill_race, mill_sounds

BANK, TWO, ZOOM, CRANE = mill_race.BANK, mill_race.TWO, mill_race.ZOOM, mill_race.CRANE
ODA, QUILL = mill_race.ODA, mill_race.QUILL
POSE = {"x": -3.0, "y": 1.5, "z": 6.0, "pan": 20.0, "tilt": -5.0, "roll": 0.0, "focal_mm": 40.0}
CHEST = {"kind": "joint", "owner_id": ODA, "joint": "chest"}
WHICH = ("kind", "character_id", "camera_id", "joint", "first")
ACCEPTED = {
    "kind": "off_arc", "character_id": ODA, "camera_id": "", "joint": "hand_r", "first": 1043, "last": 1043, "size": 11.0,
    "reason": "she trips",
}  # fmt: skip
HAND = {"character_id": ODA, "joint": "hand_r"}
HEAD = {"kind": "joint", "owner_id": QUILL, "joint": "head"}
POINT = {"kind": "point", "offset": [0.0, 1.0, 2.0]}
FREE: dict[str, Any] = {"kind": "free"}
RAIL = {
    "kind": "rail",
    "points": [[-4, 1, 0], [-4, 1, 2], [-3, 1, 4]],
    "bumps": [{"at": 0.5, "height_m": 0.02, "length_m": 0.3}],
}
ROOM = {"headroom_least": 0.05, "headroom_most": 0.3, "lead_least": 0.4}
GLASS = {"shift_x": 0.1, "near_m": 0.1, "far_m": 50.0, "circle_mm": 0.03, "shutter_deg": 90.0}
LARGER = {"digest": sha256(mill_race.oda_glb()).hexdigest(), "format": "gltf", "scale": 1.02}
STEPS, STEPS_DIGEST = str(uuid.uuid4()), sha256(mill_sounds.steps()).hexdigest()
LEAVING = {"frames": 2.0, "value": 1.0}
SIZE = {"by": "dolly", "share": 0.7, "marks": [CHEST, {**CHEST, "joint": "hips"}]}


def new() -> str:
    return str(uuid.uuid4())


BLOCK, VIEW = new(), new()
OTHER_CUT = new()
EDITS: list[dict[str, Any]] = [
    {"edit": "place camera", "camera_id": TWO, "pose": POSE, "frame": 1020, "keep_offset": True},
    {"edit": "set camera key", "camera_id": ZOOM, "time": "1010"},
    {"edit": "set camera values", "camera_id": TWO, "values": {"aperture": 2.8}},
    {"edit": "key camera values", "camera_id": TWO, "time": "2021/2", "values": {"focus_m": 3.0}},
    {"edit": "delete camera keys", "keys": {"camera_id": ZOOM, "times": ["1046"], "groups": ["lens"]}},
    {"edit": "retime camera keys", "keys": {"camera_id": ZOOM}, "by": "-5/2", "stretch": "-1/2", "about": "1046"},
    {"edit": "shape camera keys", "keys": {"camera_id": ZOOM, "times": ["1046"]}, "shape": "linear"},
    {"edit": "paste camera keys", "camera_id": ZOOM, "keys": {"x": [{"time": "3", "value": 2.5, "handle_out": LEAVING}]},
     "at": "1030", "mirrors": True, "clears": True},
    {"edit": "set curve key", "camera_id": ZOOM, "channel": "x", "time": "1046", "value": 2.0, "leaving": LEAVING},
    {"edit": "add curve key", "camera_id": ZOOM, "channel": "x", "time": "2101/2"},
    {"edit": "delete curve key", "camera_id": ZOOM, "channel": "x", "time": "1046"},
    {"edit": "reduce camera keys", "keys": {"camera_id": ZOOM}, "error_px": 2.0},
    {"edit": "smooth camera keys", "keys": {"camera_id": ZOOM, "groups": ["lens"]}, "strength": 4.0},
    {"edit": "even speed", "keys": {"camera_id": ZOOM}},
    {"edit": "go on beyond keys", "camera_id": ZOOM, "before": "cycle", "after": "drift"},
    {"edit": "cut to", "frame": 1030, "camera_id": TWO},
    {"edit": "split shot", "frame": 1050},
    {"edit": "set shot", "first": 1001, "name": "stones", "note": "slow", "state": "done", "locked": True},
    {"edit": "cut live", "takes": [{"first": 1010, "camera_id": TWO}, {"first": 1030, "camera_id": ZOOM}], "last": 1050},
    {"edit": "bring sound", "sound_id": STEPS, "name": "Steps", "digest": STEPS_DIGEST, "start": 1001},
    {"edit": "mark frames", "marks": [{"frame": 1030, "kind": "action", "text": "looks up"}, {"frame": 1012, "kind": "accent"}]},
    {"edit": "lock camera", "camera_id": TWO, "locks": ["lens"]},
    {"edit": "rename camera", "camera_id": TWO, "name": "Both of them"},
    {"edit": "set camera role", "camera_id": TWO, "role": "review"},
    {"edit": "set camera lines", "camera_id": TWO, "tint": 2, "pattern": 4},
    {"edit": "copy camera", "camera_id": TWO, "new_id": new()},
    {"edit": "delete camera", "camera_id": BANK, "replace_by": TWO},
    {"edit": "order camera", "camera_id": TWO, "index": 0},
    {"edit": "make camera", "camera_id": new(), "pose": POSE, "frame": 1020},
    {"edit": "make face camera", "camera_id": new(), "character_id": QUILL, "frame": 1020},
    {"edit": "make point of view", "camera_id": new(), "character_id": ODA, "frame": 1020},
    {"edit": "make over the shoulder", "camera_id": new(), "character_id": ODA, "other_id": QUILL, "frame": 1020},
    {"edit": "make two-shot", "camera_id": new(), "character_id": ODA, "other_id": QUILL, "frame": 1020},
    {"edit": "make review set", "camera_id": new(), "character_id": ODA, "parallel": True},
    {"edit": "mount camera", "camera_id": TWO, "mount": RAIL, "frame": 1020},
    {"edit": "carry camera", "camera_id": TWO, "mount": "crane", "frame": 1020},
    {"edit": "reach with mount", "camera_id": BANK, "place": [1.0, 1.0, 2.0], "frame": 1020},
    {"edit": "lay rail", "camera_id": TWO, "shape": "beside the path", "frame": 1020, "character_id": ODA, "side_m": -2.0},
    {"edit": "run rail evenly", "camera_id": BANK, "first": 1001, "last": 1096},
    {"edit": "aim camera", "camera_id": ZOOM, "aim": {"targets": [{"subjects": [HEAD]}]}, "frame": 1020},
    {"edit": "focus camera", "camera_id": TWO, "focus": {"targets": [{"subjects": [CHEST, HEAD]}]}, "frame": 1020},
    {"edit": "hold framing", "camera_id": ZOOM, "framing": {"subjects": [CHEST], "x": 0.4, "size": SIZE}, "frame": 1020},
    {"edit": "bake camera", "camera_id": TWO, "first": 1001, "last": 1030, "error_px": 0.5},
    {"edit": "dolly zoom", "camera_id": ZOOM, "wanted": {"subject": CHEST | {"radius_m": 0.3}, "first": 1001, "last": 1040}},
    {"edit": "orbit instead", "camera_id": ZOOM, "first": 1046, "last": 1074, "subject": CHEST},
    {"edit": "set camera lens", "camera_id": TWO, "back": {"width_mm": 24.0, "height_mm": 18.0, "squeeze": 2.0}, "glass": GLASS},
    {"edit": "set delivery frame", "delivery": {"width": 1080, "height": 1920, "pixel_aspect": 1.0}},
    {"edit": "want room", "room": ROOM},
    {"edit": "save view", "camera_id": TWO, "view_id": VIEW, "name": "From the bank", "time": "1020"},
    {"edit": "bring next version", "character_id": ODA, "source": LARGER},
    {"edit": "bring in", "thing_id": new(), "kind": "prop", "name": "Spare", "source": LARGER, "start": 1, "values": {"x": 2}},
    {"edit": "rename thing", "thing_id": QUILL, "name": "Heron"},
    {"edit": "double thing", "thing_id": ODA, "new_id": new()},
    {"edit": "take out", "thing_id": ODA, "frame": 1020, "lets_go": True},
    {"edit": "replace file", "piece_id": mill_race.MILL, "source": LARGER},
    {"edit": "scale thing", "thing_id": mill_race.MILL, "scale": 1.5},
    {"edit": "time thing", "thing_id": QUILL, "timing": {"start": "990", "stretch": "3/2", "last": "40", "repeats": "loop"}},
    {"edit": "bend time", "thing_id": ODA, "first": 1020, "last": 1040, "speed": 0.5},
    {"edit": "bend camera time", "camera_id": ZOOM, "first": 1050, "last": 1060, "speed": -1.0},
    {"edit": "accept reading", "accepted": ACCEPTED},
    {"edit": "bend scene time", "first": 1020, "last": 1040, "speed": 0.5},
    {"edit": "place thing", "thing_id": ODA, "values": {"x": 0.5, "turn": 20.0}, "time": "1020"},
    {"edit": "key thing", "thing_id": mill_race.MILL, "time": "2041/2"},
    {"edit": "show thing", "thing_id": QUILL, "showing": {"hidden": [[1001, 1010]], "cameras": [TWO]}},
    {"edit": "set piece kind", "piece_id": mill_race.MILL, "kind": "prop"},
    {"edit": "bring file camera", "camera_id": new(), "thing_id": mill_race.MILL, "camera": "Mill window"},
    {"edit": "step poses", "character_id": QUILL, "stepping": {"step": 3}},
    {"edit": "hold camera", "camera_id": TWO, "character_id": ODA},
    {"edit": "correct joint", "thing_id": ODA, "joint": "hand_r", "on_frame": 1043, "shift_px": [0.0, -11.0], "fades": 2},
    {"edit": "judge scene", "strictness": "final"},
    {"edit": "step part", "character_id": ODA, "joint": "scarf_1", "stepping": {"step": 3}},
    {"edit": "step piece", "piece_id": mill_race.POLE, "stepping": {"step": 1}},
    {"edit": "ride where it strobes", "character_id": ODA, "eases": 4},
    {"edit": "steady size", "camera_id": BANK, "on_frame": 1030, "ratio": 1.1},
    {"edit": "space stretch", "character_id": ODA, "joint": "hand_r", "first": 1050, "last": 1053,
     "shares": [0.0, 0.25, 0.5, 1.0]},
    {"edit": "tap exposures", "character_id": ODA, "taps": [1010, 1013, 1015], "last": 1020},
    {"edit": "change piece exposures", "piece_id": mill_race.POLE, "add": [1010], "remove": [1011]},
    {"edit": "correct fault", "thing_id": ODA, "joint": "hand_r", "on_frame": 1043},
    {"edit": "change exposures", "character_id": ODA, "add": [1010], "remove": [1011]},
    {"edit": "expose stretch", "character_id": ODA, "first": 1020, "last": 1040, "step": 3},
    {"edit": "ride", "character_id": ODA, "ride": {"way": "picture"}},
    {"edit": "step and ride", "character_id": ODA, "stepping": {"step": 3, "keep_key_poses": True}, "ride": {"way": "rigid"}},
    {"edit": "set front", "character_id": ODA, "front_deg": 30.0},
    {"edit": "rename scene", "name": "Crossing at dusk"},
    {"edit": "set rate", "rate": "12", "keeps": "frames"},
    {"edit": "set timecode", "text": "01:00:00:00"},
    {"edit": "keep cut", "cut_id": OTHER_CUT, "name": "B"},
    {"edit": "set play range", "first": 1001, "last": 1050},
    {"edit": "bring in scene", "block_id": BLOCK, "scene_id": mill_race.demo_id("landing"), "start": 1010},
]  # fmt: skip
AFTER: dict[str, list[dict[str, Any]]] = {
    "accept reading": [{"edit": "take acceptance back", **{name: ACCEPTED[name] for name in WHICH}}],
    "place camera": [
        {"edit": "place camera", "camera_id": ZOOM, "pose": POSE, "frame": 1020},
        {"edit": "put camera back", "camera_id": ZOOM},
    ],
    "bring next version": [{"edit": "note version", "character_id": ODA, "source": LARGER, "note": "slower turn"}],
    "key thing": [{"edit": "delete thing keys", "thing_id": mill_race.MILL, "time": None, "frame": 1020}],
    "set piece kind": [{"edit": "hold prop", "piece_id": mill_race.MILL, "holds": [{"first": 1010, **HAND}]}],
    "keep cut": [
        {"edit": "rename cut", "cut_id": OTHER_CUT, "name": "slow"},
        {"edit": "take up cut", "cut_id": OTHER_CUT},
        {"edit": "drop cut", "cut_id": OTHER_CUT},
    ],
    "paste camera keys": [
        {"edit": "cut to", "frame": 1030, "camera_id": ZOOM},
        {"edit": "slip shot", "first": 1030, "by": "3/2"},
        {"edit": "aim camera", "camera_id": ZOOM, "aim": None, "frame": 1030},
        {"edit": "match place", "first": 1030, "character_id": ODA},
    ],
    "cut live": [
        {"edit": "roll cut", "first": 1030, "to": 1034},
        {"edit": "slide shot", "first": 1034, "by": -3},
        {"edit": "swap shot cameras", "first": 1010, "other": 1031},
        {"edit": "set transition", "first": 1010, "transition": {"kind": "blend", "frames": 6, "before": 2}},
        {"edit": "join shots", "first": 1031},
        {"edit": "fit cut"},
    ],
    "steady size": [{"edit": "even camera out", "camera_id": BANK, "on_frame": 1030}],
    "correct joint": [{"edit": "drop correction", "character_id": ODA, "place": 0}],
    "ride where it strobes": [
        {"edit": "key ride", "character_id": ODA, "time": "1020", "weight": 0.25},
        {"edit": "key ride", "character_id": ODA, "time": "1020", "weight": None},
    ],
    "bring in scene": [
        {"edit": "move block", "block_id": BLOCK, "start": 1012, "values": {"x": 4.0, "turn": 90.0}},
        {"edit": "take out block", "block_id": BLOCK, "frame": 1020},
    ],
    "bring sound": [
        {
            "edit": "set sound",
            "sound_id": STEPS,
            "name": "Boots",
            "start": 990,
            "first_s": 0.5,
            "gain_db": -3,
            "muted": True,
        },
        {"edit": "take out sound", "sound_id": STEPS},
    ],
    "mark frames": [{"edit": "unmark frame", "frame": 1030, "kind": "action"}],
    "save view": [
        {"edit": "rename view", "camera_id": TWO, "view_id": VIEW, "name": "From afar"},
        {"edit": "recall view", "camera_id": TWO, "view_id": VIEW},
        {"edit": "delete view", "camera_id": TWO, "view_id": VIEW},
    ],
}
