"""Every change of a scene: named functions from a scene and arguments to a new scene. They refuse with ``DomainError``.

Those that have to know where things are take the ``Baker`` of that same scene as well.
"""

from .camera_lenses import set_camera_lens, set_delivery, set_room
from .camera_moves import (
    Turns,
    delete_camera_keys,
    key_camera,
    key_camera_values,
    move_camera_keys,
    place_camera,
    put_camera_back,
    run_evenly,
    set_camera_values,
    shape_camera_keys,
)
from .camera_rigging import aim_camera, bake_camera, focus_camera, frame_camera, mount_camera
from .cameras import (
    add_camera,
    copy_camera,
    delete_camera,
    lock_camera,
    order_camera,
    rename_camera,
    set_camera_lines,
    set_camera_role,
)
from .dolly_zooms import DollyZoom, Given, dolly_zoom
from .made_cameras import (
    make_camera,
    make_face_camera,
    make_over_the_shoulder,
    make_point_of_view,
    make_review_set,
    make_two_shot,
)
from .performances import ride_character, set_front, step_character
from .rails import RailShape, lay_rail, orbit_instead
from .saved_views import delete_view, recall_view, rename_view, save_view
from .scenes import rename_scene, set_frames

__all__ = [
    "DollyZoom", "Given", "RailShape", "Turns", "add_camera", "aim_camera", "bake_camera", "copy_camera", "delete_camera",
    "delete_camera_keys", "delete_view", "dolly_zoom", "focus_camera", "frame_camera", "key_camera",
    "key_camera_values", "lay_rail", "lock_camera", "make_camera", "make_face_camera", "make_over_the_shoulder",
    "make_point_of_view", "make_review_set", "make_two_shot", "mount_camera", "move_camera_keys", "orbit_instead", "order_camera",
    "place_camera", "put_camera_back", "recall_view", "rename_camera", "rename_scene", "rename_view",
    "ride_character", "run_evenly", "save_view", "set_camera_lens", "set_camera_lines", "set_camera_role",
    "set_camera_values", "set_delivery", "set_frames", "set_front", "set_room", "shape_camera_keys", "step_character",
]  # fmt: skip
