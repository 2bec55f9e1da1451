/* Generated from the server's models by python -m eddyfield.web.generate_types; not to be edited. */

export interface Everything {}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ArcFaultView".
 */
export interface ArcFaultView {
  frame: number;
  kind: string;
  size_px: number;
  least_px: number;
}
/**
 * Kind ``arc``: the track of a joint, per frame, px of the delivery frame; NaN where unknown.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ArcPart".
 */
export interface ArcPart {
  kind?: string;
  joint: string;
  pixels: Float32Array;
  spacing_px: Float32Array;
  subject_px: Float32Array;
  camera_px: Float32Array;
  off_arc_px: Float32Array;
  off_spacing_px: Float32Array;
  least_px: Float32Array;
  faults: ArcFaultView[];
}
/**
 * A frame on which a camera has keys; ``frame`` may lie between frames, ``time`` is exact.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CameraKeyView".
 */
export interface CameraKeyView {
  time: string;
  frame: number;
  shape: "hold" | "linear" | "smooth" | "ease" | "curve";
}
/**
 * Kind ``camera``: ``world_from_camera`` (frames, 16) column by column; ``channels`` (frames, 7) x y z pan tilt roll mm;
 * ``pixels_per_slope`` (frames, 2).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CameraPart".
 */
export interface CameraPart {
  kind?: string;
  world_from_camera: Float32Array;
  channels: Float32Array;
  pixels_per_slope: Float32Array;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CameraView".
 */
export interface CameraView {
  id: string;
  name: string;
  role: string;
  locked: boolean;
  unkeyed: boolean;
  keys: CameraKeyView[];
  back_width_mm: number;
  back_height_mm: number;
  gate: string;
  near_m: number;
  path: string;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CharacterView".
 */
export interface CharacterView {
  id: string;
  name: string;
  step: number;
  offset: number;
  keep_key_poses: boolean;
  ride_way: "off" | "rigid" | "position" | "picture";
  ride_weight: number;
  ride_anchor: string | null;
  anchor: string;
  feet: number[];
  front: number[];
  rig: string;
  motion: string;
  shown: string;
  strobing: string;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CutEntryView".
 */
export interface CutEntryView {
  first: number;
  camera_id: string;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DeskAnswer".
 */
export interface DeskAnswer {
  scenes: SceneListed[];
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SceneListed".
 */
export interface SceneListed {
  id: string;
  name: string;
  first: number;
  last: number;
  rate: string;
  cameras: number;
  characters: string[];
  changed_at: string;
  revision: number;
  has_picture: boolean;
}
/**
 * What the format of an export cannot carry of this shot.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ExportNotes".
 */
export interface ExportNotes {
  notes: string[];
}
/**
 * What an uploaded file holds, and how it would come in.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Inspection".
 */
export interface Inspection {
  digest: string;
  file_name: string;
  format: string;
  format_title: string;
  joints: number;
  triangles: number;
  seconds: number;
  animations: string[];
  animation: string | null;
  height_units: number;
  proposed_scale: number;
  scales: number[];
  offsets_matter: boolean;
  notes: string[];
}
/**
 * Kind ``motion``: the unstepped motion. Skin matrices (frames, slots, 16), column by column; joints (frames, joints, 3).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MotionPart".
 */
export interface MotionPart {
  kind?: string;
  skin: Float32Array;
  joints: Float32Array;
}
/**
 * By name; only those that the browser does not hold.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Parts".
 */
export interface Parts {
  parts: {
    [k: string]: RigPart | MotionPart | ShownPart | StrobingPart | CameraPart | ArcPart;
  };
}
/**
 * Kind ``rig``: what is drawn and picked. ``joint_parents`` index into ``joints``, -1 for roots.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RigPart".
 */
export interface RigPart {
  kind?: string;
  joints: string[];
  joint_parents: Int32Array;
  positions: Float32Array;
  normals: Float32Array;
  colors: Float32Array;
  slots: Uint16Array;
  weights: Float32Array;
  triangles: Uint32Array;
  slot_count: number;
  rest_matrices: Float32Array;
  notes: string[];
}
/**
 * Kind ``shown``: which frame's pose each frame shows, and the world transform (frames, 16) that it rides by.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ShownPart".
 */
export interface ShownPart {
  kind?: string;
  exposure_start: Int32Array;
  carried: Float32Array;
  key_poses: Float32Array;
  lost_key_poses: number[];
}
/**
 * Kind ``strobing``: slip as shown, per frame (NaN unknown); figures as shown, with Ride off, and with rigid Ride.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "StrobingPart".
 */
export interface StrobingPart {
  kind?: string;
  slip_px: Float32Array;
  feet_slide_m: Float32Array;
  shown: StrobingFigures;
  still: StrobingFigures;
  ridden: StrobingFigures;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "StrobingFigures".
 */
export interface StrobingFigures {
  rms_px: number | null;
  max_px: number | null;
  max_frame: number | null;
  reversals: number[];
  over_threshold: number;
  feet_slide_m: number | null;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ReadingView".
 */
export interface ReadingView {
  kind: "strobes" | "off the arc" | "off the spacing" | "hitch" | "pop" | "key pose not shown" | "feet slide";
  subject: string;
  first: number;
  last: number;
  size: number;
  unit: string;
  threshold: number;
  fix: "ride" | null;
}
/**
 * Why something was not done, in the user's words.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Refusal".
 */
export interface Refusal {
  message: string;
  remedy: string;
  revision?: number | null;
  edits_since?: string[];
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SceneAnswer".
 */
export interface SceneAnswer {
  scene: SceneView;
  parts: {
    [k: string]: unknown;
  };
}
/**
 * A scene as stored, with the names of the parts that show it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SceneView".
 */
export interface SceneView {
  id: string;
  name: string;
  revision: number;
  undo: string | null;
  redo: string | null;
  rate: string;
  rate_float: number;
  first: number;
  last: number;
  width: number;
  height: number;
  pixel_aspect: number;
  cameras: CameraView[];
  characters: CharacterView[];
  set_pieces: SetPieceView[];
  cut: CutEntryView[];
  arc: string | null;
  readings: ReadingView[];
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetPieceView".
 */
export interface SetPieceView {
  id: string;
  name: string;
  rig: string;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SceneMade".
 */
export interface SceneMade {
  id: string;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DeleteCameraKeys".
 */
export interface DeleteCameraKeys {
  edit?: "delete camera key";
  camera_id: string;
  time: string;
}
/**
 * An edit made on a revision. ``request_id`` keeps an edit that is sent twice from being done twice.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "EditRequest".
 */
export interface EditRequest {
  revision: number;
  request_id: string;
  edit:
    | PlaceCamera
    | KeyCamera
    | PutCameraBack
    | DeleteCameraKeys
    | MoveCameraKeys
    | ShapeCameraKeys
    | LockCamera
    | RenameCamera
    | StepCharacter
    | RideCharacter
    | RenameScene
    | SetFrames;
  view?: View;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "PlaceCamera".
 */
export interface PlaceCamera {
  edit?: "place camera";
  camera_id: string;
  pose: Pose;
  time?: string | null;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Pose".
 */
export interface Pose {
  x: number;
  y: number;
  z: number;
  pan: number;
  tilt: number;
  roll: number;
  focal_mm: number;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "KeyCamera".
 */
export interface KeyCamera {
  edit?: "set camera key";
  camera_id: string;
  time: string;
  pose?: Pose | null;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "PutCameraBack".
 */
export interface PutCameraBack {
  edit?: "put camera back";
  camera_id: string;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MoveCameraKeys".
 */
export interface MoveCameraKeys {
  edit?: "move camera key";
  camera_id: string;
  time: string;
  to: string;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ShapeCameraKeys".
 */
export interface ShapeCameraKeys {
  edit?: "shape camera key";
  camera_id: string;
  time: string;
  shape: "hold" | "linear" | "smooth" | "ease" | "curve";
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "LockCamera".
 */
export interface LockCamera {
  edit?: "lock camera";
  camera_id: string;
  locked: boolean;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RenameCamera".
 */
export interface RenameCamera {
  edit?: "rename camera";
  camera_id: string;
  name: string;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "StepCharacter".
 */
export interface StepCharacter {
  edit?: "step poses";
  character_id: string;
  step: number;
  offset?: number;
  keep_key_poses?: boolean;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RideCharacter".
 */
export interface RideCharacter {
  edit?: "ride";
  character_id: string;
  way: "off" | "rigid" | "position" | "picture";
  weight?: number;
  anchor?: string | null;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RenameScene".
 */
export interface RenameScene {
  edit?: "rename scene";
  name: string;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetFrames".
 */
export interface SetFrames {
  edit?: "set play range";
  first: number;
  last: number;
}
/**
 * What the browser shows, and the names of the parts that it holds already.
 */
export interface View {
  character_id?: string | null;
  joint?: string | null;
  frozen_frame?: number | null;
  /**
   * @maxItems 2000
   */
  held?: string[];
}
/**
 * A new scene from an uploaded file.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MakeScene".
 */
export interface MakeScene {
  digest: string;
  format: "gltf" | "bvh";
  name: string;
  scale: number;
  rate?: string;
  start?: number;
  animation?: string | null;
  offsets?: "auto" | "add" | "replace";
}
/**
 * Undo or redo on a revision.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ReplayRequest".
 */
export interface ReplayRequest {
  revision: number;
  view?: View1;
}
/**
 * What the browser shows, and the names of the parts that it holds already.
 */
export interface View1 {
  character_id?: string | null;
  joint?: string | null;
  frozen_frame?: number | null;
  /**
   * @maxItems 2000
   */
  held?: string[];
}
/**
 * What the browser shows, and the names of the parts that it holds already.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "View".
 */
export interface View2 {
  character_id?: string | null;
  joint?: string | null;
  frozen_frame?: number | null;
  /**
   * @maxItems 2000
   */
  held?: string[];
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ViewRequest".
 */
export interface ViewRequest {
  view?: View3;
}
/**
 * What the browser shows, and the names of the parts that it holds already.
 */
export interface View3 {
  character_id?: string | null;
  joint?: string | null;
  frozen_frame?: number | null;
  /**
   * @maxItems 2000
   */
  held?: string[];
}
