/* Generated from the server's models by python -m eddyfield.web.generate_types; not to be edited. */

export interface Everything {}
/**
 * Let a reading stand for a reason, until what it tells changes.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "AcceptReading".
 */
export interface AcceptReading {
  edit: "accept reading";
  accepted: Acceptance;
}
/**
 * Of a reading of this kind, about these (empty: about none), from ``first`` to ``last``, of a size in the reading's unit.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Acceptance".
 */
export interface Acceptance {
  kind: string;
  character_id: string;
  camera_id: string;
  joint: string;
  first: number;
  last: number;
  size: number;
  reason: string;
}
/**
 * Set a key on a channel's curve where it runs, without changing it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "AddCurveKey".
 */
export interface AddCurveKey {
  edit: "add curve key";
  camera_id: string;
  channel: string;
  time: string;
}
/**
 * Put a scene into the sequence, at an index counted from 0; at its end where there is none.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "AddScene".
 */
export interface AddScene {
  edit: "add scene";
  scene_id: string;
  index?: number | null;
}
/**
 * What the camera is turned towards, one target after another. How much it is, is the channel ``aim_weight``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Aim".
 */
export interface Aim {
  targets: Target[];
  follows: "motion" | "shown";
}
/**
 * A group of subjects that rules until the next target takes over, between two frames and with an ease.
 *
 * The first target of a row has no ``first`` and ``last``: it rules from the beginning.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Target".
 */
export interface Target {
  subjects: Subject[];
  first: number | null;
  last: number | null;
  ease: "even" | "slow in" | "slow out" | "slow in and out";
}
/**
 * One thing that is followed.
 *
 * A ``point`` stands at ``offset``. A ``joint`` of the character or prop ``owner_id`` is taken with an offset in world or joint
 * axes. A ``body`` is the whole character, a steady sphere that goes with its hips; an ``object`` is a prop or set piece: the
 * middle of its bounds. Both may have an offset.
 * ``weight`` counts in a group; ``radius_m`` is how far the thing reaches around its place (a body knows its own).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Subject".
 */
export interface Subject {
  kind: "point" | "joint" | "body" | "object";
  owner_id: string | null;
  joint: string | null;
  /**
   * @minItems 3
   * @maxItems 3
   */
  offset: [number, number, number];
  axes: "world" | "joint";
  weight: number;
  radius_m: number;
}
/**
 * Turn a camera towards something, or release it: then it stays turned as it is on this frame.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "AimCamera".
 */
export interface AimCamera {
  edit: "aim camera";
  camera_id: string;
  aim: Aim | null;
  frame: number;
}
/**
 * Turn mount, aim and framing lock into keys of a free camera between two frames.
 *
 * A key on every frame, or as few as keep the subjects in the picture within ``error_px`` of where they are.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "BakeCamera".
 */
export interface BakeCamera {
  edit: "bake camera";
  camera_id: string;
  first: number;
  last: number;
  error_px?: number | null;
}
/**
 * Let all that is keyed on a camera run ``speed`` times as fast from one frame to another, and go on from there. What it
 * follows keeps its own time.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "BendCameraTime".
 */
export interface BendCameraTime {
  edit: "bend camera time";
  camera_id: string;
  first: number;
  last: number;
  speed: number;
}
/**
 * Let everything run ``speed`` times as fast from one frame to another: performances, cameras, what is held and hidden. Cuts,
 * marks and sounds come when what they go with comes, and the scene ends when it has ended. Backwards (below 0) all goes back
 * to where it has been, and comes once more after that; sound is heard forwards alone.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "BendSceneTime".
 */
export interface BendSceneTime {
  edit: "bend scene time";
  first: number;
  last: number;
  speed: number;
}
/**
 * Let a thing's time run ``speed`` times as fast from one frame to another: slower, faster, frozen (0) or backwards; after
 * that it goes on from where it is by then.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "BendTime".
 */
export interface BendTime {
  edit: "bend time";
  thing_id: string;
  first: number;
  last: number;
  speed: number;
}
/**
 * Another version of a character's performance, to be shown beside the one that is performed.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Beside".
 */
export interface Beside {
  character_id: string;
  source: RigSource;
}
/**
 * Which file a rig comes from and how it is read. ``digest`` names the file's bytes in the store; ``rig`` is the one of the
 * file's rigs that is meant, None for all that its scene shows.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RigSource".
 */
export interface RigSource {
  digest: string;
  format: string;
  scale: number;
  animation: string | null;
  offsets: "auto" | "add" | "replace";
  rig: string | null;
}
/**
 * How a channel goes on before its first key and after its last: it holds, it runs through its keys again and again, or it
 * does so from where the last run came to (``drift``).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Beyond".
 */
export interface Beyond {
  before: "hold" | "cycle" | "drift";
  after: "hold" | "cycle" | "drift";
}
/**
 * Make a camera of one that came with a thing's file, where that is placed: with as few keys as keep the picture within
 * ``error_px``, or (None) a key on every frame.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "BringFileCamera".
 */
export interface BringFileCamera {
  edit: "bring file camera";
  camera_id: string;
  thing_id: string;
  camera: string;
  error_px?: number | null;
}
/**
 * Bring what a file holds into the scene, placed by ``values`` (x, y, z, turn), its time 0 on the frame ``start``. Raises
 * ``DomainError`` for a file that cannot be what it is to be.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "BringIn".
 */
export interface BringIn {
  edit: "bring in";
  thing_id: string;
  kind: "character" | "prop" | "set piece";
  name: string;
  source: RigSource;
  start: number;
  values: {
    [k: string]: number;
  };
}
/**
 * Let another scene play inside this one, from the frame ``start`` on. Raises ``DomainError`` for one that this scene plays
 * in itself.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "BringInScene".
 */
export interface BringInScene {
  edit: "bring in scene";
  block_id: string;
  scene_id: string;
  start: number;
}
/**
 * Let a character perform what another file holds, or an earlier version held. What goes by joints that are ``renamed``
 * (before, after; None: by the shape of the hierarchy) goes by them under their new names; what goes by one that is lost keeps
 * it, and the body stands in.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "BringNextVersion".
 */
export interface BringNextVersion {
  edit: "bring next version";
  character_id: string;
  source: RigSource;
  name?: string;
  brought_at?: string;
  renamed?: [string, string][] | null;
}
/**
 * Put a sound beside the frames, its beginning on ``start``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "BringSound".
 */
export interface BringSound {
  edit: "bring sound";
  sound_id: string;
  name: string;
  digest: string;
  start: number;
}
/**
 * A rise of the track: ``height_m`` at ``at`` (0..1 of the rail), over ``length_m`` of track.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Bump".
 */
export interface Bump {
  at: number;
  height_m: number;
  length_m: number;
}
/**
 * Where a camera stands (metres), how it is turned (degrees), and its focal length (mm).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CameraPose".
 */
export interface CameraPose {
  x: number;
  y: number;
  z: number;
  pan: number;
  tilt: number;
  roll: number;
  focal_mm: number;
}
/**
 * What would be best for a character.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Candidates".
 */
export interface Candidates {
  character_id: string;
  view?: View;
}
/**
 * What the browser shows, and what it holds already: parts by their names, and all those of the cameras as they were
 * at a revision. ``joint`` is one of the character, prop or set piece ``thing_id``, or a ``point N`` on its mesh, whose way
 * over the screen is looked at. ``camera_id`` is the camera that is looked through or worked on, None for the cut's.
 * ``matched_frame`` is the first frame of a shot whose cut is looked at from both sides. Not ``judged``, the answer brings
 * the picture and no readings. ``window_id`` is the window that asks: undo is of its own edits.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "View".
 */
export interface View {
  window_id?: string | null;
  thing_id?: string | null;
  joint?: string | null;
  frozen_frame?: number | null;
  camera_id?: string | null;
  judged?: boolean;
  beside?: Beside | null;
  within?: Within | null;
  /**
   * @maxItems 24
   */
  also?: FollowedJoint[];
  matched_frame?: number | null;
  laid_over?: string | null;
  takes_changes?: boolean;
  cameras_of_revision?: number | null;
  /**
   * @maxItems 6000
   */
  known_parts?: string[];
}
/**
 * The block of another scene as which a scene plays there: what surrounds it is shown with it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Within".
 */
export interface Within {
  scene_id: string;
  block_id: string;
}
/**
 * A joint, or a ``point N`` on the mesh, of a character, prop or set piece.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "FollowedJoint".
 */
export interface FollowedJoint {
  thing_id: string;
  joint: string;
}
/**
 * Carried rigidly.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Carried".
 */
export interface Carried {
  subject: Subject;
  /**
   * @minItems 6
   * @maxItems 6
   */
  through: [number, number, number, number, number, number];
  /**
   * @minItems 3
   * @maxItems 3
   */
  place: [number, number, number];
  /**
   * @minItems 4
   * @maxItems 4
   */
  turn: [number, number, number, number];
  heading: number;
  follows: "motion" | "shown";
  kind: "carried";
}
/**
 * What a soft lock had still to make up on ``frame`` when its mount was changed there: it fades by the half-life away
 * from that frame, both ways, so that the picture of the frame stays. ``correction`` has the six numbers of one.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CarriedOver".
 */
export interface CarriedOver {
  frame: number;
  /**
   * @minItems 6
   * @maxItems 6
   */
  correction: [number, number, number, number, number, number];
}
/**
 * Have a camera carried by another kind of mount.
 *
 * One that it was on before comes back as it was left, with its points, arm and keys. One that it never was on, or with
 * ``afresh``, begins where the camera stands on this frame, the picture kept. ``subject`` is what it is to go by where it
 * goes by something; a camera that goes from one thing that is carried to another keeps it, as does one that begins afresh
 * without any.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CarryCamera".
 */
export interface CarryCamera {
  edit: "carry camera";
  camera_id: string;
  mount: string;
  frame: number;
  subject?: Subject | null;
  afresh?: boolean;
}
/**
 * Show new poses on the frames ``add``, and none any more on those of ``remove``: a hold is made longer or shorter, a pose
 * put in or left out, tapped along. Raises ``DomainError`` for frames outside the scene, and for the first one or a key pose
 * that is to be kept, which cannot go.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ChangeExposures".
 */
export interface ChangeExposures {
  edit: "change exposures";
  character_id: string;
  add?: number[];
  remove?: number[];
}
/**
 * Let a prop or set piece show new poses on the frames ``add``, and none any more on those of ``remove``; from now on by
 * exposures of its own. The first frame's stays.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ChangePieceExposures".
 */
export interface ChangePieceExposures {
  edit: "change piece exposures";
  piece_id: string;
  add?: number[];
  remove?: number[];
}
/**
 * A default value, and keys in order of time (no two at one time).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Channel".
 */
export interface Channel {
  default: number;
  keys: Key[];
  beyond: Beyond;
}
/**
 * A value at an exact time. One with a ruling shape may have a handle of its own by which a curve arrives at it; handles of
 * ``smooth`` and ``ease`` rest until it is a ``curve``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Key".
 */
export interface Key {
  time: string;
  value: number;
  shape: "hold" | "linear" | "smooth" | "ease" | "curve" | "jump";
  handle_in: Handle | null;
  handle_out: Handle | null;
}
/**
 * One side of a ``curve`` key: how far it reaches in frames (not negative), and by how much in value.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Handle".
 */
export interface Handle {
  frames: number;
  value: number;
}
/**
 * Keys of one camera: those at ``times``, of the channels in ``groups``; all of them where it says None.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ChosenKeys".
 */
export interface ChosenKeys {
  camera_id: string;
  times?: string[] | null;
  groups?: ("place" | "angles" | "lens" | "focus" | "mount" | "weights")[] | null;
}
/**
 * Add a camera that is the same in all but name and lines; the copy is not locked and stands after the first.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CopyCamera".
 */
export interface CopyCamera {
  edit: "copy camera";
  camera_id: string;
  new_id: string;
}
/**
 * Take a fault of an arc away: what displaces a joint ``on_frame``, as the camera sees it (None: through the cut), or
 * makes it jump there (``step``), by the joints that make it, whichever those are.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CorrectFault".
 */
export interface CorrectFault {
  edit: "correct fault";
  thing_id: string;
  joint: string;
  on_frame: number;
  camera_id?: string | null;
  fades?: number;
  step?: boolean;
}
/**
 * Bring a joint of a character, or of what one holds, ``shift_px`` (right, down) farther ``on_frame``, as the camera
 * sees it (None: through the cut), and blend that over ``fades`` frames on both sides. As a ``step`` half of it goes to the
 * frames from that one on, and the opposite half to those before. It is brought by ``changes`` of joints, and what these leave
 * is moved; without any, by bending the limb that it ends, else by a turn of what carries it: as far as bones let it, which
 * keep their length.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CorrectJoint".
 */
export interface CorrectJoint {
  edit: "correct joint";
  thing_id: string;
  joint: string;
  on_frame: number;
  camera_id?: string | null;
  /**
   * @minItems 2
   * @maxItems 2
   */
  shift_px: [number, number];
  fades?: number;
  step?: boolean;
  changes?: JointChange[];
}
/**
 * A joint is turned about itself, by ``turn_deg`` (a rotation vector, degrees), and moved by ``shift_m``; both in the axes of
 * what it hangs on, those of the file where that is nothing.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "JointChange".
 */
export interface JointChange {
  joint: string;
  /**
   * @minItems 3
   * @maxItems 3
   */
  turn_deg: [number, number, number];
  /**
   * @minItems 3
   * @maxItems 3
   */
  shift_m: [number, number, number];
}
/**
 * ``base`` in metres, ``heading`` in degrees (as a camera's pan). Channels: ``arm_pitch`` (positive up) and
 * ``arm_yaw`` (positive right) in degrees, ``arm_length`` from the base to the head in metres.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Crane".
 */
export interface Crane {
  kind: "crane";
  /**
   * @minItems 3
   * @maxItems 3
   */
  base: [number, number, number];
  heading: number;
  follow_pitch: boolean;
  follow_yaw: boolean;
}
/**
 * What was cut while it played, from the first take to ``last``; after that the cut goes on as it was.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CutLive".
 */
export interface CutLive {
  edit: "cut live";
  takes: Take[];
  last: number;
}
/**
 * From ``first`` on, this camera was chosen while it played.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Take".
 */
export interface Take {
  first: number;
  camera_id: string;
}
/**
 * From a frame on show this camera, until the next shot begins.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CutTo".
 */
export interface CutTo {
  edit: "cut to";
  frame: number;
  camera_id: string;
}
/**
 * Take a camera out. While the cut uses it, another has to take its place there.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DeleteCamera".
 */
export interface DeleteCamera {
  edit: "delete camera";
  camera_id: string;
  replace_by?: string | null;
}
/**
 * Take keys away.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DeleteCameraKeys".
 */
export interface DeleteCameraKeys {
  edit: "delete camera keys";
  keys: ChosenKeys;
}
/**
 * Take away one key of one channel.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DeleteCurveKey".
 */
export interface DeleteCurveKey {
  edit: "delete curve key";
  camera_id: string;
  channel: string;
  time: string;
}
/**
 * Take away a thing's keys at ``time``, or all of them (None): then it stands where it was on ``frame``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DeleteThingKeys".
 */
export interface DeleteThingKeys {
  edit: "delete thing keys";
  thing_id: string;
  time: string | null;
  frame: number;
}
/**
 * Forget a saved view; the camera stays where it is.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DeleteView".
 */
export interface DeleteView {
  edit: "delete view";
  camera_id: string;
  view_id: string;
}
/**
 * The frame that is handed over: ``width`` x ``height`` pixels, each ``pixel_aspect`` as wide as high.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DeliveryFrame".
 */
export interface DeliveryFrame {
  width?: number;
  height?: number;
  pixel_aspect?: number;
}
/**
 * ``share_from`` and ``share_to`` are the subject's height in frame heights, None for what it has on the first frame.
 * ``given`` says which path stays: the camera's move, or the lens's focal length.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DollyZoom".
 */
export interface DollyZoom {
  subject: Subject;
  first: number;
  last: number;
  given?: "move" | "lens";
  share_from?: number | null;
  share_to?: number | null;
  ease?: "even" | "slow in" | "slow out" | "slow in and out";
}
/**
 * Bring in the same once more, placed beside the first and shown as it is; nobody holds it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DoubleThing".
 */
export interface DoubleThing {
  edit: "double thing";
  thing_id: string;
  new_id: string;
}
/**
 * Take a correction away again, the one in that ``place`` among those of a character.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DropCorrection".
 */
export interface DropCorrection {
  edit: "drop correction";
  character_id: string;
  place: number;
}
/**
 * Take another cut out.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DropCut".
 */
export interface DropCut {
  edit: "drop cut";
  cut_id: string;
}
/**
 * What a character performed before.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "EarlierVersion".
 */
export interface EarlierVersion {
  character_id: string;
  source: RigSource;
}
/**
 * An edit made on a revision. ``request_id`` keeps an edit that is sent twice from being done twice; ``remark`` is what other
 * windows are told beside it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "EditRequest".
 */
export interface EditRequest {
  revision: number;
  request_id: string;
  edit:
    | AcceptReading
    | AddCurveKey
    | AimCamera
    | BakeCamera
    | BendCameraTime
    | BendSceneTime
    | BendTime
    | BringFileCamera
    | BringIn
    | BringInScene
    | BringNextVersion
    | BringSound
    | CarryCamera
    | ChangeExposures
    | ChangePieceExposures
    | CopyCamera
    | CorrectFault
    | CorrectJoint
    | CutLive
    | CutTo
    | DeleteCamera
    | DeleteCameraKeys
    | DeleteCurveKey
    | DeleteThingKeys
    | DeleteView
    | SolveDollyZoom
    | DoubleThing
    | DropCorrection
    | DropCut
    | EvenCameraOut
    | EvenSpeed
    | ExposeStretch
    | FitCut
    | FocusCamera
    | GoOnBeyondKeys
    | HoldCamera
    | FrameCamera
    | HoldProp
    | JoinShots
    | JudgeScene
    | KeepCut
    | KeyCameraValues
    | KeyRide
    | KeyThing
    | LayRail
    | LockCamera
    | MakeCamera
    | MakeFaceCamera
    | MakeOverTheShoulder
    | MakePointOfView
    | MakeReviewSet
    | MakeTwoShot
    | MarkFrames
    | MatchPlace
    | MountCamera
    | MoveBlock
    | NoteVersion
    | OrbitInstead
    | OrderCamera
    | PasteCameraKeys
    | PlaceCamera
    | PlaceThing
    | PutCameraBack
    | ReachWithMount
    | RecallView
    | ReduceCameraKeys
    | RenameCamera
    | RenameCut
    | RenameScene
    | RenameThing
    | RenameView
    | ReplaceFile
    | RetimeCameraKeys
    | RideCharacter
    | RideWhereItStrobes
    | RollCut
    | RunRail
    | SaveView
    | ScaleThing
    | KeyCamera
    | SetCameraLens
    | SetCameraLines
    | SetCameraRole
    | SetCameraValues
    | SetCurveKey
    | SetDelivery
    | SetFront
    | SetPieceKind
    | SetFrames
    | SetRate
    | SetShot
    | SetSound
    | SetTimecode
    | SetTransition
    | ShapeCameraKeys
    | ShowThing
    | SlideShot
    | SlipShot
    | SmoothCameraKeys
    | SpaceStretch
    | SplitShot
    | SteadySize
    | StepAndRide
    | StepPart
    | StepPiece
    | StepCharacter
    | SwapShotCameras
    | TakeAcceptanceBack
    | TakeOut
    | TakeOutBlock
    | TakeOutSound
    | TakeUpCut
    | TapExposures
    | TimeThing
    | UnmarkFrame
    | SetRoom;
  remark?: string;
  view?: View;
}
/**
 * Solve the lens for the move, or the move for the lens; the solution is keyed on every frame of the range.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SolveDollyZoom".
 */
export interface SolveDollyZoom {
  edit: "dolly zoom";
  camera_id: string;
  wanted: DollyZoom;
}
/**
 * Let a camera run on evenly where its own channels jolt ``on_frame``: without what is displaced there, or (as a ``step``)
 * what jumps there, spread over ``fades`` frames on both sides.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "EvenCameraOut".
 */
export interface EvenCameraOut {
  edit: "even camera out";
  camera_id: string;
  on_frame: number;
  fades?: number;
  step?: boolean;
}
/**
 * Let the camera go along its way at one speed between the first and the last chosen key. All that it does on that way, it
 * does at the same places.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "EvenSpeed".
 */
export interface EvenSpeed {
  edit: "even speed";
  keys: ChosenKeys;
}
/**
 * From ``first`` to ``last`` show a new pose every ``step`` frames, or (None) on the key poses alone. What is shown before
 * and after stays.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ExposeStretch".
 */
export interface ExposeStretch {
  edit: "expose stretch";
  character_id: string;
  first: number;
  last: number;
  step: number | null;
}
/**
 * Take the shots out that lie outside the scene.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "FitCut".
 */
export interface FitCut {
  edit: "fit cut";
}
/**
 * Hold the focus on something, or let it go: then its distance stays as it is on this frame.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "FocusCamera".
 */
export interface FocusCamera {
  edit: "focus camera";
  camera_id: string;
  focus: Focus | null;
  frame: number;
}
/**
 * Held on one target after another; a hand-over is a focus pull.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Focus".
 */
export interface Focus {
  targets: Target[];
  follows: "motion" | "shown";
}
/**
 * Say how the channels of some ``groups`` (None: all that have keys) go on before their first key and after their last.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "GoOnBeyondKeys".
 */
export interface GoOnBeyondKeys {
  edit: "go on beyond keys";
  camera_id: string;
  groups?: ("place" | "angles" | "lens" | "focus" | "mount" | "weights")[] | null;
  before?: "hold" | "cycle" | "drift";
  after?: "hold" | "cycle" | "drift";
}
/**
 * Let a camera stand still as long as a character's pose is shown, or (without one) move on ones again. Its keys stay. Raises
 * ``DomainError`` for a locked camera and for somebody who is not in the scene.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "HoldCamera".
 */
export interface HoldCamera {
  edit: "hold camera";
  camera_id: string;
  character_id: string | null;
}
/**
 * Hold something in the frame, or let it go: then the picture stays as it is on this frame.
 *
 * With ``keep_size`` the size is held that it has on this frame; a joint that is given no reach takes that of its face, or
 * the length of its bone. With ``keep_place`` it is held where it is seen on this frame; what is not in the picture then, at
 * the framing's own place.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "FrameCamera".
 */
export interface FrameCamera {
  edit: "hold framing";
  camera_id: string;
  framing: Framing | null;
  frame: number;
  keep_size?: boolean;
  keep_place?: boolean;
}
/**
 * Hold the weighted middle of ``subjects`` at (``x``, ``y``), shares of the frame from its top left corner.
 *
 * Within a free zone it may drift: ``slack`` are its corners, shares of the frame from that place; the hull of place and
 * corners counts. ``half_life_s`` lets the correction catch up late. How much it is held, is the channel
 * ``framing_weight``. On a parallel camera both ways of holding the size go by the height of its view.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Framing".
 */
export interface Framing {
  subjects: Subject[];
  x: number;
  y: number;
  slack: [number, number][];
  half_life_s: number;
  size: SizeHold | null;
  follows: "motion" | "shown";
  carried_over: CarriedOver | null;
}
/**
 * The size that is kept, as a share of the frame's height, by moving in and out (``dolly``) or by the focal length
 * (``zoom``). The size is the distance on the screen between two ``marks``; without marks it is the height that the
 * held group takes, 2 r f / (h Z). The limits are metres from the camera to the subject and mm of focal length.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SizeHold".
 */
export interface SizeHold {
  by: "dolly" | "zoom";
  share: number;
  marks: [Subject, Subject] | null;
  nearest_m: number;
  farthest_m: number;
  shortest_mm: number;
  longest_mm: number;
}
/**
 * Say who holds a prop, from which frame on. Raises ``DomainError`` for a joint that is not there.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "HoldProp".
 */
export interface HoldProp {
  edit: "hold prop";
  piece_id: string;
  holds: Hold[];
}
/**
 * From frame ``first`` until the next hold: by a joint of a character, or (without one) put down where it is.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Hold".
 */
export interface Hold {
  first: number;
  character_id: string | null;
  joint: string | null;
}
/**
 * Take the cut on ``first`` away: the shot before goes on.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "JoinShots".
 */
export interface JoinShots {
  edit: "join shots";
  first: number;
}
/**
 * Take the production's limits more or less strictly in this scene.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "JudgeScene".
 */
export interface JudgeScene {
  edit: "judge scene";
  strictness: "rough" | "usual" | "final";
}
/**
 * Keep the cut as it is now beside the one that is worked on, under the name that it had; the one that is worked on is called
 * ``name`` from now on.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "KeepCut".
 */
export interface KeepCut {
  edit: "keep cut";
  cut_id: string;
  name: string;
}
/**
 * Set keys on single channels: a focus, a weight, a position on the rail.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "KeyCameraValues".
 */
export interface KeyCameraValues {
  edit: "key camera values";
  camera_id: string;
  time: string;
  values: {
    [k: string]: number;
  };
}
/**
 * Key the weight of Ride on a frame, or (None) take the key there away; without any it is the same throughout.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "KeyRide".
 */
export interface KeyRide {
  edit: "key ride";
  character_id: string;
  time: string;
  weight: number | null;
}
/**
 * Set a key on where a thing stands at ``time``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "KeyThing".
 */
export interface KeyThing {
  edit: "key thing";
  thing_id: string;
  time: string;
}
/**
 * Put a camera on a new rail that runs through where it stands, the picture kept.
 *
 * ``straight``: level, across its sight. ``ring`` and ``square`` (with rounded corners): closed, around the character.
 * ``beside the path``: along the character's own way, at the camera's height, as far beside it as the camera stands.
 * ``drawn``: along a stroke on the ground, ``stroke`` (x, z in metres), without its tremble, at the camera's height; a stroke
 * that ends where it began is a ring. The camera is moved onto it, and stays turned as it is.
 * With ``side_m`` it runs that many metres to the character's left (negative: to its right), and the camera is put on
 * it beside the character, looking at it. Raises ``DomainError`` where there is no character, where it goes nowhere, and
 * where the camera stands on its way or is locked.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "LayRail".
 */
export interface LayRail {
  edit: "lay rail";
  camera_id: string;
  shape: "straight" | "ring" | "square" | "beside the path" | "drawn";
  frame: number;
  character_id?: string | null;
  side_m?: number | null;
  stroke?: [number, number][];
}
/**
 * Lock groups of channels (place, angles, lens), so that nothing moves them, and let the others go.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "LockCamera".
 */
export interface LockCamera {
  edit: "lock camera";
  camera_id: string;
  locks: ("place" | "angles" | "lens")[];
}
/**
 * A camera where somebody is looking from.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MakeCamera".
 */
export interface MakeCamera {
  edit: "make camera";
  camera_id: string;
  pose: CameraPose;
  role?: "shot" | "face" | "review";
  frame: number;
}
/**
 * A camera carried by the head, the face filling two thirds of the frame's height; else only its place is carried.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MakeFaceCamera".
 */
export interface MakeFaceCamera {
  edit: "make face camera";
  camera_id: string;
  character_id: string;
  frame: number;
  turns_with_head?: boolean;
}
/**
 * A camera behind a character's shoulder that holds the other's face in the frame.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MakeOverTheShoulder".
 */
export interface MakeOverTheShoulder {
  edit: "make over the shoulder";
  camera_id: string;
  character_id: string;
  other_id: string;
  frame: number;
}
/**
 * A camera carried by the head, looking from the eyes.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MakePointOfView".
 */
export interface MakePointOfView {
  edit: "make point of view";
  camera_id: string;
  character_id: string;
  frame: number;
}
/**
 * Front, side, three-quarter and top; their ids follow from the one given.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MakeReviewSet".
 */
export interface MakeReviewSet {
  edit: "make review set";
  camera_id: string;
  character_id: string;
  parallel?: boolean;
}
/**
 * On the side of the two from which the camera of the cut sees them, so that the screen direction stays.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MakeTwoShot".
 */
export interface MakeTwoShot {
  edit: "make two-shot";
  camera_id: string;
  character_id: string;
  other_id: string;
  frame: number;
}
/**
 * Set marks; each takes the place of one of its kind on its frame.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MarkFrames".
 */
export interface MarkFrames {
  edit: "mark frames";
  marks: Mark[];
}
/**
 * Something that happens on a frame; of a kind there is one a frame at most.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Mark".
 */
export interface Mark {
  frame: number;
  kind: "action" | "line begins" | "line ends" | "accent";
  text: string;
}
/**
 * Turn the camera of the shot that begins on ``first``, over all of its move alike, so that a character's face comes in
 * where it went out.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MatchPlace".
 */
export interface MatchPlace {
  edit: "match place";
  first: number;
  character_id: string;
}
/**
 * Change how a camera is carried.
 *
 * With ``keep`` the picture on this frame stays as it is: what was keyed for the old mount goes, and the camera stands still
 * on its new one. Without, the settings of the mount it has are changed and its channels stay. A camera that is newly carried
 * is attached as its subject is on this frame.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MountCamera".
 */
export interface MountCamera {
  edit: "mount camera";
  camera_id: string;
  mount: Carried | Crane | Free | Orbit | Rail | Trailing;
  frame: number;
  keep?: boolean;
}
/**
 * Nothing carries the camera: place and angles are channels of the world.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Free".
 */
export interface Free {
  kind: "free";
}
/**
 * Around ``pivot``. Channels: ``azimuth`` in degrees (0 in front of the character, positive to its left; in front of a
 * point is its +Z), ``elevation`` in degrees (positive above), ``distance`` in metres.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Orbit".
 */
export interface Orbit {
  kind: "orbit";
  pivot: Subject;
  follows: "motion" | "shown";
}
/**
 * A centripetal Catmull-Rom spline through ``points`` (metres), re-parametrised by arc length.
 *
 * Channel ``rail``: position from 0 to 1; on a closed rail it goes on round. ``height_m`` lifts the head off the track.
 * Facing ``own``: the camera's angles are the world's; ``along``: they count from the heading of the track.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Rail".
 */
export interface Rail {
  kind: "rail";
  points: [number, number, number][];
  closed: boolean;
  height_m: number;
  facing: "own" | "along";
  bumps: Bump[];
}
/**
 * Carried with lag: after ``half_life_s`` seconds half of the way is caught up. It starts at rest on the scene's first
 * frame. Turns lag as rotations, place by itself.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Trailing".
 */
export interface Trailing {
  subject: Subject;
  /**
   * @minItems 6
   * @maxItems 6
   */
  through: [number, number, number, number, number, number];
  /**
   * @minItems 3
   * @maxItems 3
   */
  place: [number, number, number];
  /**
   * @minItems 4
   * @maxItems 4
   */
  turn: [number, number, number, number];
  heading: number;
  follows: "motion" | "shown";
  half_life_s: number;
  kind: "trailing";
}
/**
 * Let a scene that plays inside begin on another frame, stand elsewhere (x, y, z, turn), or be called otherwise; None
 * leaves it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MoveBlock".
 */
export interface MoveBlock {
  edit: "move block";
  block_id: string;
  start?: number | null;
  values?: {
    [k: string]: number;
  } | null;
  name?: string | null;
}
/**
 * Write a note on a version of a performance.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "NoteVersion".
 */
export interface NoteVersion {
  edit: "note version";
  character_id: string;
  source: RigSource;
  note: string;
}
/**
 * Between two keys, go around a subject in place of the straight way: an orbit with the same end pictures. A camera that does
 * something before or after it goes round by keys of its own, and goes on as it did.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "OrbitInstead".
 */
export interface OrbitInstead {
  edit: "orbit instead";
  camera_id: string;
  first: number;
  last: number;
  subject: Subject;
}
/**
 * Move a camera along the bench, to an index counted from 0.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "OrderCamera".
 */
export interface OrderCamera {
  edit: "order camera";
  camera_id: string;
  index: number;
}
/**
 * Set copied keys on a camera, the first of them on ``at``. They take the place of keys at the same times; with ``clears``
 * of all that the channels have within that stretch. What the camera has no use for on its mount is left out.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "PasteCameraKeys".
 */
export interface PasteCameraKeys {
  edit: "paste camera keys";
  camera_id: string;
  keys: {
    [k: string]: Key[];
  };
  at: string;
  mirrors?: boolean;
  clears?: boolean;
}
/**
 * Put a camera somewhere in the world; with ``keep_offset`` as near as its rail, arm or orbit lets it.
 *
 * Standing on a key, that key changes; else one that has keys keeps them and stands there unkeyed until it is keyed or
 * put back, or is keyed at once where ``records`` says so, on what was moved alone. With ``nearest`` pan and roll
 * are directions: they come within half a turn of where the camera stands then, so that a key set there does not spin
 * it. Only what changes has to be unlocked.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "PlaceCamera".
 */
export interface PlaceCamera {
  edit: "place camera";
  camera_id: string;
  pose: CameraPose;
  frame: number;
  turns?: "nearest" | "counted";
  keep_offset?: boolean;
  records?: boolean;
}
/**
 * Put a character, prop or set piece somewhere (x, y, z, turn): for good, or by a key on ``time`` where it has keys.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "PlaceThing".
 */
export interface PlaceThing {
  edit: "place thing";
  thing_id: string;
  values: {
    [k: string]: number;
  };
  time: string;
}
/**
 * Forget what was moved without a key: its keys rule again. One without keys goes back to its last saved view.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "PutCameraBack".
 */
export interface PutCameraBack {
  edit: "put camera back";
  camera_id: string;
}
/**
 * Bring the head of a mount as near to a place of the world (metres) as its rail, arm or orbit lets it; unkeyed where
 * that has keys.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ReachWithMount".
 */
export interface ReachWithMount {
  edit: "reach with mount";
  camera_id: string;
  /**
   * @minItems 3
   * @maxItems 3
   */
  place: [number, number, number];
  frame: number;
  records?: boolean;
}
/**
 * Bring a camera back to a saved view: unkeyed where it has keys. A locked camera stays where it is.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RecallView".
 */
export interface RecallView {
  edit: "recall view";
  camera_id: string;
  view_id: string;
}
/**
 * As few keys in the place of the chosen ones as keep what is in the picture within ``error_px`` of where it is.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ReduceCameraKeys".
 */
export interface ReduceCameraKeys {
  edit: "reduce camera keys";
  keys: ChosenKeys;
  error_px: number;
}
/**
 * Give a camera a name that no other has. Raises ``DomainError`` where another has it, or it is not usable.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RenameCamera".
 */
export interface RenameCamera {
  edit: "rename camera";
  camera_id: string;
  name: string;
}
/**
 * Call the cut that is shown (``cut_id`` None), or another, something else.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RenameCut".
 */
export interface RenameCut {
  edit: "rename cut";
  cut_id?: string | null;
  name: string;
}
/**
 * Give the scene another name.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RenameScene".
 */
export interface RenameScene {
  edit: "rename scene";
  name: string;
}
/**
 * Give a character, prop or set piece another name.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RenameThing".
 */
export interface RenameThing {
  edit: "rename thing";
  thing_id: string;
  name: string;
}
/**
 * Give a saved view another name.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RenameView".
 */
export interface RenameView {
  edit: "rename view";
  camera_id: string;
  view_id: string;
  name: string;
}
/**
 * Let a prop or set piece be what another file holds: where it stands, when it is seen and who holds it stay. Raises
 * ``DomainError`` where a camera goes by a joint that the file does not have.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ReplaceFile".
 */
export interface ReplaceFile {
  edit: "replace file";
  piece_id: string;
  source: RigSource;
}
/**
 * Move keys in time: stretched about a frame (mirrored where the stretch is negative), then moved by some frames. Keys
 * that are not chosen stay, and are not overwritten.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RetimeCameraKeys".
 */
export interface RetimeCameraKeys {
  edit: "retime camera keys";
  keys: ChosenKeys;
  by?: string;
  stretch?: string;
  about?: string;
}
/**
 * Carry the character's held poses along with the camera of the cut, or stop doing so. Raises ``DomainError`` where the
 * anchor is no joint of the character. Keys of its weight stay with ``keeps_keys``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RideCharacter".
 */
export interface RideCharacter {
  edit: "ride";
  character_id: string;
  ride: Ride;
  keeps_keys?: boolean;
}
/**
 * How held poses ride: the way, the weight 0..1, and the anchor (None: the rig's first animated root). Where it ``plants``,
 * feet that stand on the ground stay there, and their legs bend.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Ride".
 */
export interface Ride {
  way?: "off" | "rigid" | "position" | "picture" | "scaled";
  weight?: number;
  anchor?: string | null;
  plants?: boolean;
  weights?: Channel | null;
}
/**
 * Ride in the stretches that strobe alone, eased in before each and out after it over some frames; by the way that the
 * character rides by, else by the one that is offered.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RideWhereItStrobes".
 */
export interface RideWhereItStrobes {
  edit: "ride where it strobes";
  character_id: string;
  eases?: number;
}
/**
 * Move the cut on ``first`` to another frame; both its neighbours make room, as far as they can.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RollCut".
 */
export interface RollCut {
  edit: "roll cut";
  first: number;
  to: number;
}
/**
 * Let a camera run its rail between two frames: all of it at an even speed, or setting off and arriving slowly, or
 * ``abreast`` of a character, where the rail is nearest to it on every frame, without its sway.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RunRail".
 */
export interface RunRail {
  edit: "run rail evenly";
  camera_id: string;
  first: number;
  last: number;
  pace?: "even" | "ease" | "abreast";
  character_id?: string | null;
}
/**
 * Keep how a camera stands at a time under a name.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SaveView".
 */
export interface SaveView {
  edit: "save view";
  camera_id: string;
  view_id: string;
  name: string;
  time: string;
}
/**
 * Read a thing's file in another size: ``scale`` metres per unit of the file.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ScaleThing".
 */
export interface ScaleThing {
  edit: "scale thing";
  thing_id: string;
  scale: number;
}
/**
 * Set a key on the pose and the mount at ``time``: of the pose given, else of where the camera stands. Locked groups
 * are left alone; a locked camera is refused.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "KeyCamera".
 */
export interface KeyCamera {
  edit: "set camera key";
  camera_id: string;
  time: string;
  pose?: CameraPose | null;
}
/**
 * Give a camera a film back and glass: gate, squeeze, shift, planes, parallel view, circle of confusion, shutter.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetCameraLens".
 */
export interface SetCameraLens {
  edit: "set camera lens";
  camera_id: string;
  back: FilmBack;
  glass: Glass;
}
/**
 * The back itself, in mm, and how the delivery frame is taken from it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "FilmBack".
 */
export interface FilmBack {
  width_mm: number;
  height_mm: number;
  gate: "crop" | "reach" | "width" | "height";
  squeeze: number;
}
/**
 * What else the lens does. Shifts are fractions of the frame, positive moves the picture right and up. ``far_m`` None
 * shows all; an ``orthographic_height_m`` makes a parallel view of that height; ``circle_mm`` is the circle of confusion,
 * None for a 1500th of the used back's diagonal.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Glass".
 */
export interface Glass {
  shift_x: number;
  shift_y: number;
  near_m: number;
  far_m: number | null;
  orthographic_height_m: number | null;
  circle_mm: number | null;
  shutter_deg: number;
}
/**
 * Choose the tint and the line pattern by which it is known everywhere.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetCameraLines".
 */
export interface SetCameraLines {
  edit: "set camera lines";
  camera_id: string;
  tint: number;
  pattern: number;
}
/**
 * Say what a camera is for: the shot, the face, or review.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetCameraRole".
 */
export interface SetCameraRole {
  edit: "set camera role";
  camera_id: string;
  role: "shot" | "face" | "review";
}
/**
 * Set channels to numbers: focus, aperture, the position on a rail ... On a ``frame`` keys that are there change, and
 * with ``records`` what has none is keyed; else they are unkeyed where they have keys.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetCameraValues".
 */
export interface SetCameraValues {
  edit: "set camera values";
  camera_id: string;
  values: {
    [k: string]: number;
  };
  frame?: number | null;
  records?: boolean;
}
/**
 * Move one key of one channel in time and value, and say how the curve arrives there and leaves it; what is None stays. A
 * handle makes the key one with handles of its own, the other side as it was.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetCurveKey".
 */
export interface SetCurveKey {
  edit: "set curve key";
  camera_id: string;
  channel: string;
  time: string;
  to?: string | null;
  value?: number | null;
  arriving?: Handle | null;
  leaving?: Handle | null;
}
/**
 * Deliver the scene in another frame; every camera shows more or less of what it saw, by its gate.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetDelivery".
 */
export interface SetDelivery {
  edit: "set delivery frame";
  delivery: DeliveryFrame;
}
/**
 * Say which way a character faces, or leave it to its file: 0 is +Z, positive turns to its left.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetFront".
 */
export interface SetFront {
  edit: "set front";
  character_id: string;
  front_deg: number | null;
}
/**
 * Make a set piece a prop, which hands may take, or the other way round.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetPieceKind".
 */
export interface SetPieceKind {
  edit: "set piece kind";
  piece_id: string;
  kind: "prop" | "set piece";
}
/**
 * Set the playing range, both ends included.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetFrames".
 */
export interface SetFrames {
  edit: "set play range";
  first: number;
  last: number;
}
/**
 * Give the scene another rate, with everything at its exact time (``times``) or on its own frame (``frames``).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetRate".
 */
export interface SetRate {
  edit: "set rate";
  rate: string;
  keeps?: "times" | "frames";
}
/**
 * Say of the shot that begins on ``first`` what it is called, shows and is; what is None stays. An empty name is the one
 * that its number gives it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetShot".
 */
export interface SetShot {
  edit: "set shot";
  first: number;
  camera_id?: string | null;
  name?: string | null;
  note?: string | null;
  state?: ("open" | "in work" | "done") | null;
  locked?: boolean | null;
  handles?: Handles | null;
}
/**
 * Frames beyond a shot's own ends that are made as well, so that its cuts can still be moved after it is handed over.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Handles".
 */
export interface Handles {
  before: number;
  after: number;
}
/**
 * Say where a sound begins, what of it is heard, and how loud.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetSound".
 */
export interface SetSound {
  edit: "set sound";
  sound_id: string;
  name: string;
  start: number;
  first_s?: number;
  last_s?: number | null;
  gain_db?: number;
  muted?: boolean;
}
/**
 * Say which time code the scene's first frame has; with ``;`` before the frames it is drop-frame.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetTimecode".
 */
export interface SetTimecode {
  edit: "set timecode";
  text: string;
}
/**
 * Say how the shot that begins on ``first`` takes over from the one before.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetTransition".
 */
export interface SetTransition {
  edit: "set transition";
  first: number;
  transition: Transition;
}
/**
 * How a shot begins. ``dissolve`` shows the pictures of both cameras over each other, ``dip`` goes to a ``colour`` and
 * back, ``blend`` moves from the one camera to the other: place, turn, lens and focus. It takes ``frames`` frames, ``before``
 * of which lie before the shot's own first frame, and changes over by ``ease``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Transition".
 */
export interface Transition {
  kind: "cut" | "dissolve" | "dip" | "blend";
  frames: number;
  before: number;
  ease: "even" | "slow in" | "slow out" | "slow in and out";
  colour: string;
}
/**
 * Give keys a shape. Handles of their own are kept for when they are curves again.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ShapeCameraKeys".
 */
export interface ShapeCameraKeys {
  edit: "shape camera keys";
  keys: ChosenKeys;
  shape: "hold" | "linear" | "smooth" | "ease" | "curve" | "jump";
}
/**
 * Say when a thing is there, and for which cameras. Raises ``DomainError`` for a camera that is not in the scene.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ShowThing".
 */
export interface ShowThing {
  edit: "show thing";
  thing_id: string;
  showing: Showing;
}
/**
 * ``hidden`` are spans of frames (first and last, both included, in order) on which it is not there. ``cameras`` are the
 * only ones that see it, by their ids; None: all do. What is ``roam_only`` is an aid for working: no camera sees it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Showing".
 */
export interface Showing {
  hidden: [number, number][];
  cameras: string[] | null;
  roam_only: boolean;
}
/**
 * Move a whole shot between its neighbours by some frames, as far as they have room.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SlideShot".
 */
export interface SlideShot {
  edit: "slide shot";
  first: number;
  by: number;
}
/**
 * Let the move of a shot's camera come ``by`` frames later under it; its frames, and all other shots, stay.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SlipShot".
 */
export interface SlipShot {
  edit: "slip shot";
  first: number;
  by: string;
}
/**
 * Even out the values of the chosen keys, each channel by itself, over about ``strength`` frames; the first and the last of
 * them stay.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SmoothCameraKeys".
 */
export interface SmoothCameraKeys {
  edit: "smooth camera keys";
  keys: ChosenKeys;
  strength: number;
}
/**
 * Let a character run so from ``first`` to ``last`` that its joint has come so far along its way on the screen by each frame
 * as the ``shares`` say (from 0 to 1, one a frame), as the camera sees it (None: through the cut). The poses at both ends stay
 * on their frames.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SpaceStretch".
 */
export interface SpaceStretch {
  edit: "space stretch";
  character_id: string;
  joint: string;
  camera_id?: string | null;
  first: number;
  last: number;
  shares: number[];
}
/**
 * Begin a new shot of the same camera on a frame.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SplitShot".
 */
export interface SplitShot {
  edit: "split shot";
  frame: number;
}
/**
 * Key the lens against a move: ``on_frame`` everything is drawn ``ratio`` times as large as the camera's own lens does, and
 * ``fades`` frames beside it less and less of that. As a ``step`` half of it goes to the frames from that one on, and the
 * opposite half to those before.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SteadySize".
 */
export interface SteadySize {
  edit: "steady size";
  camera_id: string;
  on_frame: number;
  ratio: number;
  fades?: number;
  step?: boolean;
}
/**
 * Hold the character's poses in one way and carry them in one, together. Keys of the ride's weight stay.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "StepAndRide".
 */
export interface StepAndRide {
  edit: "step and ride";
  character_id: string;
  stepping: Stepping;
  ride: Ride;
}
/**
 * A performance held on every ``step`` frames, the grid moved by ``offset`` frames from the first.
 *
 * ``keep_key_poses`` lets an exposure start on every key pose, the grid going on after it as before. Where somebody has said
 * frame by frame on which a new pose is shown, those are the ``starts`` (in order), and the grid rules no more. The grid counts
 * frames of the scene, after the time of the performance was stretched or bent; ``in_file_time`` it counts those of the
 * performance before that: what was on twos is on fours at half the speed.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Stepping".
 */
export interface Stepping {
  step: number;
  offset: number;
  keep_key_poses: boolean;
  starts: number[] | null;
  in_file_time: boolean;
}
/**
 * Step all that hangs on a joint by itself, or (None) with the body again. Raises ``DomainError`` for a joint on which all of
 * the body hangs.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "StepPart".
 */
export interface StepPart {
  edit: "step part";
  character_id: string;
  joint: string;
  stepping: Stepping | null;
}
/**
 * Step a prop or set piece by itself, or (None) as who holds it is, and on ones where nobody does.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "StepPiece".
 */
export interface StepPiece {
  edit: "step piece";
  piece_id: string;
  stepping: Stepping | null;
}
/**
 * Hold the character's poses on ones, twos, threes ...
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "StepCharacter".
 */
export interface StepCharacter {
  edit: "step poses";
  character_id: string;
  stepping: Stepping;
}
/**
 * Let two shots show each other's camera.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SwapShotCameras".
 */
export interface SwapShotCameras {
  edit: "swap shot cameras";
  first: number;
  other: number;
}
/**
 * Have a reading told again that was let stand.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "TakeAcceptanceBack".
 */
export interface TakeAcceptanceBack {
  edit: "take acceptance back";
  kind: string;
  character_id: string;
  camera_id: string;
  joint: string;
  first: number;
}
/**
 * Take a character, prop or set piece out of the scene. Where cameras or props go by it that is refused, unless
 * ``lets_go``: then they first let go of it, and stay where they were on ``frame``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "TakeOut".
 */
export interface TakeOut {
  edit: "take out";
  thing_id: string;
  frame: number;
  lets_go?: boolean;
}
/**
 * Take a scene that plays inside out again. Where cameras or props go by what came with it that is refused, unless
 * ``lets_go``: then they first let go of it, and stay where they were on ``frame``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "TakeOutBlock".
 */
export interface TakeOutBlock {
  edit: "take out block";
  block_id: string;
  frame: number;
  lets_go?: boolean;
}
/**
 * Take a sound out of the scene.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "TakeOutSound".
 */
export interface TakeOutSound {
  edit: "take out sound";
  sound_id: string;
}
/**
 * Show another cut; the one that was shown is kept in its place.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "TakeUpCut".
 */
export interface TakeUpCut {
  edit: "take up cut";
  cut_id: string;
}
/**
 * Show new poses where somebody tapped along, and no other from the first of the ``taps`` to ``last``, where that stopped;
 * but for key poses that are to be kept.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "TapExposures".
 */
export interface TapExposures {
  edit: "tap exposures";
  character_id: string;
  taps: number[];
  last: number;
}
/**
 * Say how the motion of a thing's file runs: from which frame on, how long, which part of it, and how often. Where it only
 * begins elsewhere, what its time was bent to comes along.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "TimeThing".
 */
export interface TimeThing {
  edit: "time thing";
  thing_id: string;
  timing: Timing;
}
/**
 * On the scene's frame ``start`` stands the file's frame ``first``; each frame of the file lasts ``stretch`` frames of the
 * scene. Frames of the file are counted from its time 0, at the scene's rate. After ``last`` (None: where the file ends) it
 * stays, begins anew or goes back and forth. ``backwards``, it runs from ``last`` to ``first``. Between the keys of its
 * ``curve`` that says how many frames of the file have passed on a frame of the scene; before and after them it runs on from
 * there.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Timing".
 */
export interface Timing {
  start: string;
  stretch: string;
  first: string;
  last: string | null;
  repeats: "once" | "loop" | "back and forth";
  backwards: boolean;
  curve: Channel | null;
}
/**
 * Take a mark away.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "UnmarkFrame".
 */
export interface UnmarkFrame {
  edit: "unmark frame";
  frame: number;
  kind: "action" | "line begins" | "line ends" | "accent";
}
/**
 * Want another headroom and lead room; the framing readings go by them.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetRoom".
 */
export interface SetRoom {
  edit: "want room";
  room: Room;
}
/**
 * In shares of the frame: above the head, of the frame's height; ahead of the face, of its width.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Room".
 */
export interface Room {
  headroom_least: number;
  headroom_most: number;
  lead_least: number;
}
/**
 * What an edit would make better and worse.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "EffectRequest".
 */
export interface EffectRequest {
  edit:
    | AcceptReading
    | AddCurveKey
    | AimCamera
    | BakeCamera
    | BendCameraTime
    | BendSceneTime
    | BendTime
    | BringFileCamera
    | BringIn
    | BringInScene
    | BringNextVersion
    | BringSound
    | CarryCamera
    | ChangeExposures
    | ChangePieceExposures
    | CopyCamera
    | CorrectFault
    | CorrectJoint
    | CutLive
    | CutTo
    | DeleteCamera
    | DeleteCameraKeys
    | DeleteCurveKey
    | DeleteThingKeys
    | DeleteView
    | SolveDollyZoom
    | DoubleThing
    | DropCorrection
    | DropCut
    | EvenCameraOut
    | EvenSpeed
    | ExposeStretch
    | FitCut
    | FocusCamera
    | GoOnBeyondKeys
    | HoldCamera
    | FrameCamera
    | HoldProp
    | JoinShots
    | JudgeScene
    | KeepCut
    | KeyCameraValues
    | KeyRide
    | KeyThing
    | LayRail
    | LockCamera
    | MakeCamera
    | MakeFaceCamera
    | MakeOverTheShoulder
    | MakePointOfView
    | MakeReviewSet
    | MakeTwoShot
    | MarkFrames
    | MatchPlace
    | MountCamera
    | MoveBlock
    | NoteVersion
    | OrbitInstead
    | OrderCamera
    | PasteCameraKeys
    | PlaceCamera
    | PlaceThing
    | PutCameraBack
    | ReachWithMount
    | RecallView
    | ReduceCameraKeys
    | RenameCamera
    | RenameCut
    | RenameScene
    | RenameThing
    | RenameView
    | ReplaceFile
    | RetimeCameraKeys
    | RideCharacter
    | RideWhereItStrobes
    | RollCut
    | RunRail
    | SaveView
    | ScaleThing
    | KeyCamera
    | SetCameraLens
    | SetCameraLines
    | SetCameraRole
    | SetCameraValues
    | SetCurveKey
    | SetDelivery
    | SetFront
    | SetPieceKind
    | SetFrames
    | SetRate
    | SetShot
    | SetSound
    | SetTimecode
    | SetTransition
    | ShapeCameraKeys
    | ShowThing
    | SlideShot
    | SlipShot
    | SmoothCameraKeys
    | SpaceStretch
    | SplitShot
    | SteadySize
    | StepAndRide
    | StepPart
    | StepPiece
    | StepCharacter
    | SwapShotCameras
    | TakeAcceptanceBack
    | TakeOut
    | TakeOutBlock
    | TakeOutSound
    | TakeUpCut
    | TapExposures
    | TimeThing
    | UnmarkFrame
    | SetRoom;
}
/**
 * The limits that are not as usual from now on, by name, and those that were when they were looked at.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "LimitsRequest".
 */
export interface LimitsRequest {
  values: {
    [k: string]: number;
  };
  was: {
    [k: string]: number;
  };
  window_id?: string | null;
}
/**
 * A new scene from an uploaded file.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MakeScene".
 */
export interface MakeScene {
  digest: string;
  format: string;
  name: string;
  scale: number;
  rate?: string;
  start?: number;
  animation?: string | null;
  offsets?: "auto" | "add" | "replace";
  rig?: string | null;
}
/**
 * A new sequence of scenes, in order.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MakeSequence".
 */
export interface MakeSequence {
  name: string;
  /**
   * @maxItems 500
   */
  scene_ids?: string[];
}
/**
 * A simple shape or figure, as a file to bring in.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MakeStandIn".
 */
export interface MakeStandIn {
  shape: "box" | "ball" | "slope" | "steps" | "wall" | "standing figure" | "seated figure";
  width_m?: number;
  height_m?: number;
  depth_m?: number;
}
/**
 * Move a scene to an index, counted from 0; the others close up.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MoveScene".
 */
export interface MoveScene {
  edit: "move scene";
  scene_id: string;
  index: number;
}
/**
 * An uploaded file that may be the next version of a thing of the scene, or (None) of the character it is most like.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "NextVersion".
 */
export interface NextVersion {
  digest: string;
  format: string;
  file_name?: string;
  thing_id?: string | null;
  /**
   * @maxItems 4096
   */
  lost?: string[];
}
/**
 * An edit while it is in the hand: worked out and shown, not stored.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "PreviewRequest".
 */
export interface PreviewRequest {
  edit:
    | AcceptReading
    | AddCurveKey
    | AimCamera
    | BakeCamera
    | BendCameraTime
    | BendSceneTime
    | BendTime
    | BringFileCamera
    | BringIn
    | BringInScene
    | BringNextVersion
    | BringSound
    | CarryCamera
    | ChangeExposures
    | ChangePieceExposures
    | CopyCamera
    | CorrectFault
    | CorrectJoint
    | CutLive
    | CutTo
    | DeleteCamera
    | DeleteCameraKeys
    | DeleteCurveKey
    | DeleteThingKeys
    | DeleteView
    | SolveDollyZoom
    | DoubleThing
    | DropCorrection
    | DropCut
    | EvenCameraOut
    | EvenSpeed
    | ExposeStretch
    | FitCut
    | FocusCamera
    | GoOnBeyondKeys
    | HoldCamera
    | FrameCamera
    | HoldProp
    | JoinShots
    | JudgeScene
    | KeepCut
    | KeyCameraValues
    | KeyRide
    | KeyThing
    | LayRail
    | LockCamera
    | MakeCamera
    | MakeFaceCamera
    | MakeOverTheShoulder
    | MakePointOfView
    | MakeReviewSet
    | MakeTwoShot
    | MarkFrames
    | MatchPlace
    | MountCamera
    | MoveBlock
    | NoteVersion
    | OrbitInstead
    | OrderCamera
    | PasteCameraKeys
    | PlaceCamera
    | PlaceThing
    | PutCameraBack
    | ReachWithMount
    | RecallView
    | ReduceCameraKeys
    | RenameCamera
    | RenameCut
    | RenameScene
    | RenameThing
    | RenameView
    | ReplaceFile
    | RetimeCameraKeys
    | RideCharacter
    | RideWhereItStrobes
    | RollCut
    | RunRail
    | SaveView
    | ScaleThing
    | KeyCamera
    | SetCameraLens
    | SetCameraLines
    | SetCameraRole
    | SetCameraValues
    | SetCurveKey
    | SetDelivery
    | SetFront
    | SetPieceKind
    | SetFrames
    | SetRate
    | SetShot
    | SetSound
    | SetTimecode
    | SetTransition
    | ShapeCameraKeys
    | ShowThing
    | SlideShot
    | SlipShot
    | SmoothCameraKeys
    | SpaceStretch
    | SplitShot
    | SteadySize
    | StepAndRide
    | StepPart
    | StepPiece
    | StepCharacter
    | SwapShotCameras
    | TakeAcceptanceBack
    | TakeOut
    | TakeOutBlock
    | TakeOutSound
    | TakeUpCut
    | TapExposures
    | TimeThing
    | UnmarkFrame
    | SetRoom;
  view?: View;
}
/**
 * Give the sequence another name.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RenameSequence".
 */
export interface RenameSequence {
  edit: "rename sequence";
  name: string;
}
/**
 * Undo or redo on a revision, which a window's own edits do not go by. ``request_id`` keeps one that is sent twice from being
 * done twice. Undo takes back what others did, where it has to, only if ``of_others`` says so.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ReplayRequest".
 */
export interface ReplayRequest {
  revision: number;
  request_id?: string | null;
  of_others?: boolean;
  view?: View;
}
/**
 * A reading as it was told at an earlier look.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SeenReading".
 */
export interface SeenReading {
  kind:
    | "strobes"
    | "lens_moves_in_holds"
    | "off_arc"
    | "off_spacing"
    | "hitch"
    | "pop"
    | "corner"
    | "camera_jolts"
    | "nothing_can_be_told"
    | "key_pose_not_shown"
    | "key_poses_between_frames"
    | "feet_slide"
    | "sinks"
    | "hovers"
    | "entrance"
    | "exit"
    | "head_out_of_action_safe"
    | "head_out_of_frame"
    | "no_head_in_frame"
    | "feet_out_of_action_safe"
    | "feet_out_of_frame"
    | "cut_at_neck"
    | "cut_at_wrist"
    | "cut_at_knee"
    | "cut_at_ankle"
    | "little_headroom"
    | "much_headroom"
    | "little_lead_room"
    | "size_drifts"
    | "size_hitches"
    | "head_hidden"
    | "body_hidden"
    | "near_plane_cuts_in"
    | "far_plane_cuts_off"
    | "soft"
    | "lock_cannot_reach"
    | "size_cannot_be_held"
    | "aims_at_still_joint"
    | "carried_by_still_joint"
    | "aim_bobs"
    | "carrier_bobs"
    | "joint_is_lost"
    | "straight_chord"
    | "pans_too_fast"
    | "short_shot"
    | "jump_cut"
    | "line_crossed"
    | "cut_jolts"
    | "place_jumps"
    | "cut_after_mark"
    | "cut_outside_scene"
    | "cannot_be_judged";
  subject: string;
  first: number;
  last: number;
  size: number;
  unit: "px" | "m" | "frames" | "share" | "degrees" | "";
  threshold: number;
  character_id: string | null;
  camera_id: string | null;
  joint: string | null;
  remark: boolean;
}
/**
 * An edit of a sequence made on a revision; ``request_id`` keeps one that is sent twice from being done twice.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SequenceEditRequest".
 */
export interface SequenceEditRequest {
  revision: number;
  request_id: string;
  edit: RenameSequence | AddScene | MoveScene | TakeSceneOut | StartTimecode;
}
/**
 * Take a scene out of the sequence; the scene itself stays.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "TakeSceneOut".
 */
export interface TakeSceneOut {
  edit: "take scene out";
  scene_id: string;
}
/**
 * Say which time code the first frame has.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "StartTimecode".
 */
export interface StartTimecode {
  edit: "start timecode";
  text: string;
}
/**
 * Undo or redo of a sequence on a revision.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SequenceReplayRequest".
 */
export interface SequenceReplayRequest {
  revision: number;
}
/**
 * Under which name others are told of this person's changes.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SetName".
 */
export interface SetName {
  name: string;
}
/**
 * Since when: what was told at an earlier look, or (where it is given) what another version of a performance has told now.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SinceRequest".
 */
export interface SinceRequest {
  /**
   * @maxItems 2000
   */
  seen?: SeenReading[];
  version?: EarlierVersion | null;
}
/**
 * The spacing of a joint over a stretch, through a camera or (None) the cut; ``intent`` None is the one that fits best, of
 * ``own`` shares of the way is one a frame.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SpacingRequest".
 */
export interface SpacingRequest {
  thing_id: string;
  joint: string;
  camera_id: string | null;
  first: number;
  last: number;
  intent: ("even" | "slow out" | "slow in" | "slow out and in") | "own" | null;
  /**
   * @maxItems 500
   */
  own?: number[];
}
/**
 * Which reading it is about, as it was told; ``seen_through`` is the camera of its arc, None for the cut.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Told".
 */
export interface Told {
  kind:
    | "strobes"
    | "lens_moves_in_holds"
    | "off_arc"
    | "off_spacing"
    | "hitch"
    | "pop"
    | "corner"
    | "camera_jolts"
    | "nothing_can_be_told"
    | "key_pose_not_shown"
    | "key_poses_between_frames"
    | "feet_slide"
    | "sinks"
    | "hovers"
    | "entrance"
    | "exit"
    | "head_out_of_action_safe"
    | "head_out_of_frame"
    | "no_head_in_frame"
    | "feet_out_of_action_safe"
    | "feet_out_of_frame"
    | "cut_at_neck"
    | "cut_at_wrist"
    | "cut_at_knee"
    | "cut_at_ankle"
    | "little_headroom"
    | "much_headroom"
    | "little_lead_room"
    | "size_drifts"
    | "size_hitches"
    | "head_hidden"
    | "body_hidden"
    | "near_plane_cuts_in"
    | "far_plane_cuts_off"
    | "soft"
    | "lock_cannot_reach"
    | "size_cannot_be_held"
    | "aims_at_still_joint"
    | "carried_by_still_joint"
    | "aim_bobs"
    | "carrier_bobs"
    | "joint_is_lost"
    | "straight_chord"
    | "pans_too_fast"
    | "short_shot"
    | "jump_cut"
    | "line_crossed"
    | "cut_jolts"
    | "place_jumps"
    | "cut_after_mark"
    | "cut_outside_scene"
    | "cannot_be_judged";
  first: number;
  last: number;
  frame: number;
  character_id?: string | null;
  camera_id?: string | null;
  joint?: string | null;
  seen_through?: string | null;
  as_seen?:
    | (
        | "strobes"
        | "lens_moves_in_holds"
        | "off_arc"
        | "off_spacing"
        | "hitch"
        | "pop"
        | "corner"
        | "camera_jolts"
        | "nothing_can_be_told"
        | "key_pose_not_shown"
        | "key_poses_between_frames"
        | "feet_slide"
        | "sinks"
        | "hovers"
        | "entrance"
        | "exit"
        | "head_out_of_action_safe"
        | "head_out_of_frame"
        | "no_head_in_frame"
        | "feet_out_of_action_safe"
        | "feet_out_of_frame"
        | "cut_at_neck"
        | "cut_at_wrist"
        | "cut_at_knee"
        | "cut_at_ankle"
        | "little_headroom"
        | "much_headroom"
        | "little_lead_room"
        | "size_drifts"
        | "size_hitches"
        | "head_hidden"
        | "body_hidden"
        | "near_plane_cuts_in"
        | "far_plane_cuts_off"
        | "soft"
        | "lock_cannot_reach"
        | "size_cannot_be_held"
        | "aims_at_still_joint"
        | "carried_by_still_joint"
        | "aim_bobs"
        | "carrier_bobs"
        | "joint_is_lost"
        | "straight_chord"
        | "pans_too_fast"
        | "short_shot"
        | "jump_cut"
        | "line_crossed"
        | "cut_jolts"
        | "place_jumps"
        | "cut_after_mark"
        | "cut_outside_scene"
        | "cannot_be_judged"
      )
    | null;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ViewRequest".
 */
export interface ViewRequest {
  view?: View;
}
/**
 * Which reading it is that one wants to see the reason of, as it was told.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "WhyRequest".
 */
export interface WhyRequest {
  told: Told;
}
/**
 * Who is signed in, as other windows are told; empty where no name was given.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Access".
 */
export interface Access {
  name: string;
}
/**
 * A further arc that is drawn, by the name of its part.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "AlsoArc".
 */
export interface AlsoArc {
  thing_id: string;
  joint: string;
  arc: string;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ArcFaultView".
 */
export interface ArcFaultView {
  frame: number;
  kind:
    | "strobes"
    | "lens_moves_in_holds"
    | "off_arc"
    | "off_spacing"
    | "hitch"
    | "pop"
    | "corner"
    | "camera_jolts"
    | "nothing_can_be_told"
    | "key_pose_not_shown"
    | "key_poses_between_frames"
    | "feet_slide"
    | "sinks"
    | "hovers"
    | "entrance"
    | "exit"
    | "head_out_of_action_safe"
    | "head_out_of_frame"
    | "no_head_in_frame"
    | "feet_out_of_action_safe"
    | "feet_out_of_frame"
    | "cut_at_neck"
    | "cut_at_wrist"
    | "cut_at_knee"
    | "cut_at_ankle"
    | "little_headroom"
    | "much_headroom"
    | "little_lead_room"
    | "size_drifts"
    | "size_hitches"
    | "head_hidden"
    | "body_hidden"
    | "near_plane_cuts_in"
    | "far_plane_cuts_off"
    | "soft"
    | "lock_cannot_reach"
    | "size_cannot_be_held"
    | "aims_at_still_joint"
    | "carried_by_still_joint"
    | "aim_bobs"
    | "carrier_bobs"
    | "joint_is_lost"
    | "straight_chord"
    | "pans_too_fast"
    | "short_shot"
    | "jump_cut"
    | "line_crossed"
    | "cut_jolts"
    | "place_jumps"
    | "cut_after_mark"
    | "cut_outside_scene"
    | "cannot_be_judged";
  size_px: number;
  least_px: number;
}
/**
 * Kind ``arc judgement``: of the arc, per frame, px of the delivery frame; NaN where unknown.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ArcJudgementPart".
 */
export interface ArcJudgementPart {
  kind: string;
  off_arc_px: Float32Array;
  off_spacing_px: Float32Array;
  least_px: Float32Array;
  undetectable: Uint8Array;
  faults: ArcFaultView[];
}
/**
 * Kind ``arc``: the track of a joint, per frame, px of the delivery frame; NaN where unknown.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ArcPart".
 */
export interface ArcPart {
  kind: string;
  joint: string;
  pixels: Float32Array;
  spacing_px: Float32Array;
  subject_px: Float32Array;
  camera_px: Float32Array;
}
/**
 * What of a scene asks for attention: how many readings there are through its cut, and of what kinds, the gravest first.
 * ``told`` None: it is too long to be judged in passing.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Attention".
 */
export interface Attention {
  told: number | null;
  kinds: (
    | "strobes"
    | "lens_moves_in_holds"
    | "off_arc"
    | "off_spacing"
    | "hitch"
    | "pop"
    | "corner"
    | "camera_jolts"
    | "nothing_can_be_told"
    | "key_pose_not_shown"
    | "key_poses_between_frames"
    | "feet_slide"
    | "sinks"
    | "hovers"
    | "entrance"
    | "exit"
    | "head_out_of_action_safe"
    | "head_out_of_frame"
    | "no_head_in_frame"
    | "feet_out_of_action_safe"
    | "feet_out_of_frame"
    | "cut_at_neck"
    | "cut_at_wrist"
    | "cut_at_knee"
    | "cut_at_ankle"
    | "little_headroom"
    | "much_headroom"
    | "little_lead_room"
    | "size_drifts"
    | "size_hitches"
    | "head_hidden"
    | "body_hidden"
    | "near_plane_cuts_in"
    | "far_plane_cuts_off"
    | "soft"
    | "lock_cannot_reach"
    | "size_cannot_be_held"
    | "aims_at_still_joint"
    | "carried_by_still_joint"
    | "aim_bobs"
    | "carrier_bobs"
    | "joint_is_lost"
    | "straight_chord"
    | "pans_too_fast"
    | "short_shot"
    | "jump_cut"
    | "line_crossed"
    | "cut_jolts"
    | "place_jumps"
    | "cut_after_mark"
    | "cut_outside_scene"
    | "cannot_be_judged"
  )[];
}
/**
 * Another version of a performance, seen through the same cameras as the one that is performed.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "BesideView".
 */
export interface BesideView {
  character_id: string;
  source: RigSource;
  rig: string;
  motion: string;
  shown: string;
  arc: string | null;
}
/**
 * Kind ``blend``: the cut on the frames of its blended moves, ``frames`` (n,); ``world_from_camera`` (n, 16) column by
 * column, ``pose`` (n, 7), ``pixels_per_slope`` (n, 2), ``shifts`` (n, 2) in fractions of the frame, ``near_m`` (n,), ``depths``
 * (n, 4) as a camera has them, ``disc_px`` (n,) the blur of what is infinitely far; ``view_height_m`` (n,) of parallel views, 0
 * where there is a lens, empty where all are.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "BlendPart".
 */
export interface BlendPart {
  kind: string;
  frames: Int32Array;
  world_from_camera: Float32Array;
  pose: Float32Array;
  pixels_per_slope: Float32Array;
  shifts: Float32Array;
  near_m: Float32Array;
  view_height_m: Float32Array;
  depths: Float32Array;
  disc_px: Float32Array;
}
/**
 * Another scene that plays inside one, from ``first`` to ``last``; ``gone_by`` are names of cameras and props that go by what
 * comes with it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "BlockView".
 */
export interface BlockView {
  id: string;
  name: string;
  scene_id: string;
  scene_name: string;
  first: number;
  last: number;
  ground: Ground;
  gone_by: string[];
}
/**
 * What things are placed on, where that is not the scene itself: turned by ``turn`` degrees about +Y (positive to the
 * left), then moved, metres.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Ground".
 */
export interface Ground {
  x: number;
  y: number;
  z: number;
  turn: number;
}
/**
 * Kind ``camera``: ``world_from_camera`` (frames, 16) column by column; ``pose`` (frames, 7) x y z pan tilt roll mm;
 * ``pixels_per_slope`` (frames, 2). ``depths`` (frames, 4): focus, near limit, far limit, hyperfocal, metres. ``values``
 * are its other channels by name, (frames,) each. Empty where there is none: ``wanted_px`` (frames, 2) of the framing
 * lock; places (frames, 3) of what it aims at, goes by and holds; ``rail`` (points, 3). ``reached`` (frames,): 1 the
 * aim, 2 the place, 4 the size can be had. ``view_height_m`` (frames,) of a parallel view. Of what is held: ``held_px``
 * (frames, 2) where it is seen, ``away_px`` (frames,) how far from its place, ``held_size_px`` (frames,). Of what carries it:
 * ``along`` (frames, 5) travel and rise in metres, turning, nodding, leaning in degrees, and ``along_px`` (5,) how far each
 * moves the picture. ``rail_speed`` (frames,) in m/s.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CameraPart".
 */
export interface CameraPart {
  kind: string;
  world_from_camera: Float32Array;
  pose: Float32Array;
  pixels_per_slope: Float32Array;
  depths: Float32Array;
  view_height_m: Float32Array;
  values: {
    [k: string]: Float32Array;
  };
  reached: Uint8Array;
  wanted_px: Float32Array;
  aim_places: Float32Array;
  mount_places: Float32Array;
  framing_places: Float32Array;
  held_px: Float32Array;
  away_px: Float32Array;
  held_size_px: Float32Array;
  along: Float32Array;
  along_px: Float32Array;
  rail: Float32Array;
  rail_length_m: number;
  rail_speed: Float32Array;
}
/**
 * Kind ``camera view``: a camera's settings; what is worked out from them is in the part ``path``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CameraView".
 */
export interface CameraView {
  kind: string;
  id: string;
  name: string;
  role: "shot" | "face" | "review";
  tint: number;
  pattern: number;
  locks: ("place" | "angles" | "lens")[];
  locked: boolean;
  unkeyed: string[];
  keyed_channels: string[];
  keys: KeyMark[];
  back: FilmBack;
  glass: Glass;
  mount: Carried | Crane | Free | Orbit | Rail | Trailing;
  mounts_left: string[];
  aim: Aim | null;
  focus: Focus | null;
  framing: Framing | null;
  steps_with: string | null;
  path: string;
  channels: string;
  views: SavedViewView[];
}
/**
 * A time at which there is a key, as text and as a frame, and the shape of that key.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "KeyMark".
 */
export interface KeyMark {
  time: string;
  frame: number;
  shape: "hold" | "linear" | "smooth" | "ease" | "curve" | "jump";
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SavedViewView".
 */
export interface SavedViewView {
  id: string;
  name: string;
  path: string;
}
/**
 * A way, what it leaves, and the scene with it; ``edit`` None is the scene as it is. ``cost_px`` is what they are put in
 * order by, ``loses_by`` what it has more of than the best.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CandidateView".
 */
export interface CandidateView {
  kind: string;
  title: string;
  edit: EditRequest["edit"] | null;
  slip_px: number;
  slip_max_px: number;
  reversals: number;
  lost: number[];
  feet_slide_m: number | null;
  feet_slide_px: number | null;
  legs_stretch: number | null;
  cost_px: number;
  loses_by: ("slip" | "feet_slide" | "poses_lost" | "other_look" | "background_jumps") | null;
  answer: SceneAnswer;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SceneAnswer".
 */
export interface SceneAnswer {
  scene: SceneSent;
  parts: {
    [k: string]: unknown;
  };
}
/**
 * As sent: cameras by the names of their parts, so that a scene of hundreds costs no more than a few. ``readings`` None:
 * they were not asked for.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SceneSent".
 */
export interface SceneSent {
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
  room: Room;
  characters: CharacterView[];
  pieces: PieceView[];
  blocks: BlockView[];
  around: string | null;
  shots: string;
  cut_name: string;
  strictness: "rough" | "usual" | "final";
  other_cuts: OtherCutView[];
  timecode: TimecodeView;
  blend: string | null;
  sounds: SoundView[];
  marks: Mark[];
  beside: BesideView | null;
  arc: string | null;
  also: AlsoArc[];
  arc_judgement: string | null;
  match: string | null;
  two_cameras: string | null;
  speed: string | null;
  subjects: string | null;
  fallbacks: string[];
  cameras: string[];
  readings: ReadingView[] | null;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CharacterView".
 */
export interface CharacterView {
  id: string;
  name: string;
  block_id: string | null;
  step: number;
  offset: number;
  keep_key_poses: boolean;
  step_in_file_time: boolean;
  parts: OwnExposures[];
  own_exposures: boolean;
  ride_way: "off" | "rigid" | "position" | "picture" | "scaled";
  ride_weight: number;
  ride_keys: RideKey[];
  ride_plants: boolean;
  ride_anchor: string | null;
  anchor: string;
  feet: number[];
  front: number[];
  front_deg: number | null;
  face_joint: string;
  face_centre: number[];
  face_height_m: number;
  calm_joint: string;
  source: RigSource;
  timing: Timing;
  file_frames: number;
  time: string;
  placing: string;
  showing: Showing;
  file_cameras: string[];
  gone_by: string[];
  versions: Version[];
  corrections: string | null;
  compared_with: Version | null;
  changed: string | null;
  rig: string;
  motion: string;
  shown: string;
  strobing: string;
}
/**
 * All that hangs on ``joint`` is stepped by itself, below what it hangs on as that is shown.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "OwnExposures".
 */
export interface OwnExposures {
  joint: string;
  stepping: Stepping;
}
/**
 * A weight of Ride at an exact time.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RideKey".
 */
export interface RideKey {
  time: string;
  weight: number;
}
/**
 * ``name`` is that of its file, ``brought_at`` when it came (ISO 8601; empty where that is not known).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Version".
 */
export interface Version {
  source: RigSource;
  name: string;
  brought_at: string;
  note: string;
}
/**
 * ``motion`` names the part with what its file moves, None where that is nothing; ``placed`` the one with what carries it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "PieceView".
 */
export interface PieceView {
  id: string;
  name: string;
  block_id: string | null;
  kind: "prop" | "set piece";
  source: RigSource;
  timing: Timing;
  file_frames: number;
  time: string;
  placing: string;
  showing: Showing;
  file_cameras: string[];
  gone_by: string[];
  stepping: Stepping | null;
  holds: Hold[];
  rig: string;
  motion: string | null;
  placed: string;
}
/**
 * A cut that is kept beside the one that is shown; ``shots`` names the part with its shots.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "OtherCutView".
 */
export interface OtherCutView {
  id: string;
  name: string;
  shots: string;
  shot_count: number;
}
/**
 * The time code of the scene's first frame, as a text and as a count; ``numbers`` a second, of which the first ``dropped``
 * of each minute but every tenth are left out.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "TimecodeView".
 */
export interface TimecodeView {
  text: string;
  starts_at: number;
  numbers: number;
  dropped: number;
}
/**
 * A sound of the scene, how long its file is, and the name of the part with its waveform.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SoundView".
 */
export interface SoundView {
  sound: Sound;
  seconds: number;
  waveform: string;
}
/**
 * A sound file, by the SHA-256 of its content. On the frame ``start`` its second ``first_s`` is heard; ``last_s`` is where it
 * ends, None at its own end. ``gain_db`` is added to how loud it is.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Sound".
 */
export interface Sound {
  id: string;
  name: string;
  digest: string;
  start: number;
  first_s: number;
  last_s: number | null;
  gain_db: number;
  muted: boolean;
  nested: Nested | null;
}
/**
 * With which block something comes, the ground that it stands on, and the frame on which its exposures begin.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Nested".
 */
export interface Nested {
  block_id: string;
  ground: Ground;
  begins: number;
}
/**
 * The ids say what it is about; the list of them has the one that hurts most first.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ReadingView".
 */
export interface ReadingView {
  kind:
    | "strobes"
    | "lens_moves_in_holds"
    | "off_arc"
    | "off_spacing"
    | "hitch"
    | "pop"
    | "corner"
    | "camera_jolts"
    | "nothing_can_be_told"
    | "key_pose_not_shown"
    | "key_poses_between_frames"
    | "feet_slide"
    | "sinks"
    | "hovers"
    | "entrance"
    | "exit"
    | "head_out_of_action_safe"
    | "head_out_of_frame"
    | "no_head_in_frame"
    | "feet_out_of_action_safe"
    | "feet_out_of_frame"
    | "cut_at_neck"
    | "cut_at_wrist"
    | "cut_at_knee"
    | "cut_at_ankle"
    | "little_headroom"
    | "much_headroom"
    | "little_lead_room"
    | "size_drifts"
    | "size_hitches"
    | "head_hidden"
    | "body_hidden"
    | "near_plane_cuts_in"
    | "far_plane_cuts_off"
    | "soft"
    | "lock_cannot_reach"
    | "size_cannot_be_held"
    | "aims_at_still_joint"
    | "carried_by_still_joint"
    | "aim_bobs"
    | "carrier_bobs"
    | "joint_is_lost"
    | "straight_chord"
    | "pans_too_fast"
    | "short_shot"
    | "jump_cut"
    | "line_crossed"
    | "cut_jolts"
    | "place_jumps"
    | "cut_after_mark"
    | "cut_outside_scene"
    | "cannot_be_judged";
  subject: string;
  first: number;
  last: number;
  size: number;
  unit: "px" | "m" | "frames" | "share" | "degrees" | "";
  threshold: number;
  fixes: FixView[];
  character_id: string | null;
  camera_id: string | null;
  figures: Figure[];
  remark: boolean;
  shot: number | null;
  cause: string;
  cause_title: string;
  note: string;
  joint: string | null;
  frame: number;
  least: number | null;
  fault_of: ("subject" | "camera" | "both") | null;
  as_seen:
    | (
        | "strobes"
        | "lens_moves_in_holds"
        | "off_arc"
        | "off_spacing"
        | "hitch"
        | "pop"
        | "corner"
        | "camera_jolts"
        | "nothing_can_be_told"
        | "key_pose_not_shown"
        | "key_poses_between_frames"
        | "feet_slide"
        | "sinks"
        | "hovers"
        | "entrance"
        | "exit"
        | "head_out_of_action_safe"
        | "head_out_of_frame"
        | "no_head_in_frame"
        | "feet_out_of_action_safe"
        | "feet_out_of_frame"
        | "cut_at_neck"
        | "cut_at_wrist"
        | "cut_at_knee"
        | "cut_at_ankle"
        | "little_headroom"
        | "much_headroom"
        | "little_lead_room"
        | "size_drifts"
        | "size_hitches"
        | "head_hidden"
        | "body_hidden"
        | "near_plane_cuts_in"
        | "far_plane_cuts_off"
        | "soft"
        | "lock_cannot_reach"
        | "size_cannot_be_held"
        | "aims_at_still_joint"
        | "carried_by_still_joint"
        | "aim_bobs"
        | "carrier_bobs"
        | "joint_is_lost"
        | "straight_chord"
        | "pans_too_fast"
        | "short_shot"
        | "jump_cut"
        | "line_crossed"
        | "cut_jolts"
        | "place_jumps"
        | "cut_after_mark"
        | "cut_outside_scene"
        | "cannot_be_judged"
      )
    | null;
  accepted: Acceptance | null;
}
/**
 * An edit that mends what a reading tells.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "FixView".
 */
export interface FixView {
  title: string;
  does: string;
  edit: EditRequest["edit"];
}
/**
 * A further number of a reading.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Figure".
 */
export interface Figure {
  title: string;
  value: number;
  unit: "px" | "m" | "frames" | "share" | "degrees" | "";
}
/**
 * The best ways, the best first, and the scene as it is among them; how many there were, and what could not be tried. The
 * frames around the worst moment are looked at.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CandidatesAnswer".
 */
export interface CandidatesAnswer {
  candidates: CandidateView[];
  tried: number;
  refused: string[];
  first: number;
  last: number;
}
/**
 * Kind ``carried``: what carries a prop or set piece as shown, (frames or 1, 16), column by column.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CarriedPart".
 */
export interface CarriedPart {
  kind: string;
  world_from_file: Float32Array;
}
/**
 * A correction, as it is on the ``frame`` on which there is most of it: ``joint`` is brought ``shift_m`` (world) by
 * ``changes`` of joints in the axes of what they hang on. It is seen from ``first`` to ``last``. One that ``rests`` is not
 * seen: the file has changed there since it was made. Frames are None where the scene shows none of it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ChangeAtSource".
 */
export interface ChangeAtSource {
  joint: string;
  frame: number | null;
  first: number | null;
  last: number | null;
  /**
   * @minItems 3
   * @maxItems 3
   */
  shift_m: [number, number, number];
  changes: JointChange[];
  rests: boolean;
}
/**
 * What became of one matter; ``was`` is the reading of it before, where there was one and there is one.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ChangeView".
 */
export interface ChangeView {
  status: "new" | "worse" | "better" | "gone" | "same";
  reading: ReadingView;
  was: ReadingView | null;
}
/**
 * Kind ``changed``: what the version of a performance changed, (frames,) each: how far the joint that moved most is from
 * where the version before has it, px through the cut (NaN unseen), and its index among the joints; how many frames changed.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ChangedPart".
 */
export interface ChangedPart {
  kind: string;
  px: Float32Array;
  joints: Int32Array;
  frames: number;
}
/**
 * What became better and worse, without what stayed.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ChangesTold".
 */
export interface ChangesTold {
  changes: ChangeView[];
}
/**
 * The keys of one channel, in order of time: exact ``times``, the same as ``frames``, ``values`` in the channel's unit;
 * ``shapes`` index into the shapes of keys; ``handles`` (keys, 4): how the curve arrives at each key and leaves it, whatever
 * its shape, as frames and value of the one before and of the one after it, NaN where there is none; ``beyond``, how it goes on
 * before and after them.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ChannelKeys".
 */
export interface ChannelKeys {
  times: string[];
  beyond: Beyond;
  frames: Float64Array;
  values: Float64Array;
  shapes: Uint8Array;
  handles: Float64Array;
}
/**
 * Kind ``channels``: of one owner those that have keys, by their names.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ChannelsPart".
 */
export interface ChannelsPart {
  kind: string;
  keyed: {
    [k: string]: ChannelKeys;
  };
}
/**
 * Kind ``corrections``: what is laid over a performance, each as what would have to change at its source.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CorrectionsPart".
 */
export interface CorrectionsPart {
  kind: string;
  corrections: ChangeAtSource[];
}
/**
 * What becomes better and worse where another cut takes the place of the one that is shown.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "CutComparison".
 */
export interface CutComparison {
  changes: ChangeView[];
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "DeskAnswer".
 */
export interface DeskAnswer {
  scenes: SceneListed[];
  sequences: SequenceView[];
  warning: string;
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
  next_step: string;
}
/**
 * Scenes one after the other; its rate is that of the first one, 0 where it has none.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SequenceView".
 */
export interface SequenceView {
  id: string;
  name: string;
  revision: number;
  undo: string | null;
  redo: string | null;
  rate_float: number;
  timecode: TimecodeView;
  frames: number;
  seconds: number;
  scenes: SceneOfSequence[];
}
/**
 * A scene in its place. ``begins`` and ``lasts`` are in frames of the sequence, which may be no whole ones where the scene
 * has another rate.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SceneOfSequence".
 */
export interface SceneOfSequence {
  scene_id: string;
  name: string;
  revision: number;
  has_picture: boolean;
  first: number;
  last: number;
  rate: string;
  rate_float: number;
  begins: number;
  lasts: number;
  seconds: number;
  timecode: string;
  other_rate: boolean;
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
 * A hand that holds on to something in the world, and stays there while the body rides.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "GripView".
 */
export interface GripView {
  joint: string;
  first: number;
  last: number;
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
  likely: "character" | "prop" | "set piece";
  joints: number;
  triangles: number;
  seconds: number;
  animations: string[];
  animation: string | null;
  rigs: RigOfFile[];
  height_units: number;
  foot_units: number[];
  proposed_scale: number;
  scales: number[];
  offsets_matter: boolean;
  cameras: string[];
  notes: string[];
}
/**
 * One of the rigs that a file holds, as it would come in by itself.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RigOfFile".
 */
export interface RigOfFile {
  name: string;
  joints: number;
  triangles: number;
  height_units: number;
  foot_units: number[];
}
/**
 * From when on something is told, in every scene of the production; ``told_above`` it, else below.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "LimitView".
 */
export interface LimitView {
  name: string;
  title: string;
  unit: string;
  of: string;
  value: number;
  usual: number;
  least: number;
  most: number;
  told_above: boolean;
}
/**
 * An event: the limits of the production were set, by whom (empty: somebody without a name) and from which window.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "LimitsChanged".
 */
export interface LimitsChanged {
  who: string;
  window_id: string | null;
}
/**
 * All of them, and by name those that are ``changed``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "LimitsTold".
 */
export interface LimitsTold {
  limits: LimitView[];
  changed: {
    [k: string]: number;
  };
}
/**
 * Marks where lines begin and end, in order.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "LinesFound".
 */
export interface LinesFound {
  marks: Mark[];
}
/**
 * What is multiplied with the colours of the vertices: ``image`` is an index into the images of the mesh, wrapped as ``wrap``
 * says across and down. ``opacity`` is multiplied with the image's own; ``mask`` shows what has at least ``cutoff`` of it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Look".
 */
export interface Look {
  name: string;
  image: number | null;
  /**
   * @minItems 2
   * @maxItems 2
   */
  wrap: ["repeat" | "clamp" | "mirror", "repeat" | "clamp" | "mirror"];
  opacity: number;
  alpha: "opaque" | "mask" | "blend";
  cutoff: number;
  both_sides: boolean;
  /**
   * @minItems 3
   * @maxItems 3
   */
  glow: [number, number, number];
  lit: boolean;
}
/**
 * Of the cut on which the shot that begins on ``first`` comes in; the shots show frames ``out_first`` to ``in_last``. The
 * background is what stands still at the distance of the nearest subject, px a frame.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Match".
 */
export interface Match {
  first: number;
  out_first: number;
  in_last: number;
  subjects: MatchedSubject[];
  background_before_px: number | null;
  background_after_px: number | null;
}
/**
 * The middle of a character's face, as shown, px: in the last picture before the cut and in the first after it (None where
 * it is not in that picture), how far apart these are, and how fast it moves on the screen there, on ones, px a frame (None in
 * a shot of one frame).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MatchedSubject".
 */
export interface MatchedSubject {
  character_id: string;
  name: string;
  before: [number, number] | null;
  after: [number, number] | null;
  jump_px: number | null;
  speed_before_px: number | null;
  speed_after_px: number | null;
}
/**
 * Kind ``match``: how the pictures on both sides of a cut go together.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MatchPart".
 */
export interface MatchPart {
  kind: string;
  match: Match;
}
/**
 * Triangles ``first`` to ``end`` (not included) of a mesh, with its look by index; None is plain. Where it is not ``smooth``
 * every triangle is flat, whatever the normals say.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MeshPart".
 */
export interface MeshPart {
  first: number;
  end: number;
  look: number | null;
  smooth: boolean;
}
/**
 * Frames ``first`` to ``last``, both included, on which a shot (``entry`` of the cut) takes over from the one before; of
 * each frame the share 0..1 that it has. Of a dip, the nearer to one half, the more of its colour.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Mix".
 */
export interface Mix {
  entry: number;
  first: number;
  last: number;
  transition: Transition;
  shares: number[];
}
/**
 * Kind ``motion``: the unstepped motion. Skin matrices (frames, slots, 16), column by column; joints (frames, joints,
 * 3); weights of shapes (frames, shapes).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "MotionPart".
 */
export interface MotionPart {
  kind: string;
  skin: Float32Array;
  joints: Float32Array;
  shapes: Float32Array;
}
/**
 * What bringing in a file as something's next version would change; without a ``thing_id`` it is like none.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "NextVersionView".
 */
export interface NextVersionView {
  thing_id: string | null;
  changes: ChangeView[];
  edit: EditRequest["edit"] | null;
  renamed: [string, string][];
  goes_by_lost: [string, string][];
  stands_in: string;
  joints_added: string[];
  joints_lost: string[];
  last_before: number;
  last_after: number;
}
/**
 * A part as what is different in it from the part ``base``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "PartChange".
 */
export interface PartChange {
  kind: string;
  base: string;
  splices: Splice[];
}
/**
 * In a part, at the end of ``path``: so many items ``removed`` from the place ``at``, and ``items`` put there; ``at`` None:
 * all of it is these. Arrays are counted flat, as they are sent.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Splice".
 */
export interface Splice {
  path: string[];
  at: number | null;
  removed: number;
  items: unknown;
}
/**
 * By name; only those that the browser does not hold.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Parts".
 */
export interface Parts {
  parts: {
    [k: string]:
      | RigPart
      | MotionPart
      | ShownPart
      | PlacingPart
      | ChangedPart
      | CorrectionsPart
      | CarriedPart
      | PieceMotionPart
      | StrobingPart
      | CameraView
      | CameraPart
      | ChannelsPart
      | SubjectsPart
      | ArcPart
      | ArcJudgementPart;
  };
}
/**
 * Kind ``rig``: what is drawn and picked. ``joint_parents`` index into ``joints``, -1 for roots.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RigPart".
 */
export interface RigPart {
  positions: Float32Array;
  normals: Float32Array;
  colors: Float32Array;
  slots: Uint16Array;
  weights: Float32Array;
  triangles: Uint32Array;
  uvs: Float32Array;
  mesh_parts: MeshPart[];
  shapes: ShapeView[];
  kind: string;
  joints: string[];
  joint_parents: Int32Array;
  looks: Look[];
  images: Uint8Array[];
  levels: SurfaceLevel[];
  slot_count: number;
  rest_matrices: Float32Array;
  notes: string[];
}
/**
 * A shape of the mesh: which vertices it moves, (N,), how far at full weight, (N, 3), and what that does to their normals.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ShapeView".
 */
export interface ShapeView {
  name: string;
  vertices: Uint32Array;
  moves: Float32Array;
  turns: Float32Array;
}
/**
 * A coarser surface, for pictures in which ``cell_m`` of the rest pose is hardly seen.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SurfaceLevel".
 */
export interface SurfaceLevel {
  positions: Float32Array;
  normals: Float32Array;
  colors: Float32Array;
  slots: Uint16Array;
  weights: Float32Array;
  triangles: Uint32Array;
  uvs: Float32Array;
  mesh_parts: MeshPart[];
  shapes: ShapeView[];
  cell_m: number;
}
/**
 * Kind ``shown``: which frame's pose each frame shows, and the world transform (frames, 16) that it rides by.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ShownPart".
 */
export interface ShownPart {
  kind: string;
  exposure_start: Int32Array;
  carried: Float32Array;
  group_of_slot: Int32Array;
  group_of_joint: Int32Array;
  bent: Float32Array;
  grips: GripView[];
  ride_weights: Float32Array;
  key_poses: Float32Array;
  lost_key_poses: number[];
}
/**
 * Kind ``placing``: where a thing stands, (frames or 1, 4): x, height, z in metres, turn in degrees; and the frames of its
 * keys.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "PlacingPart".
 */
export interface PlacingPart {
  kind: string;
  values: Float32Array;
  key_frames: Float64Array;
}
/**
 * Kind ``piece motion``: what its own file moves of a piece, as shown: skin matrices (frames, slots, 16), column by column,
 * in the axes of the file; places of the joints there (frames, joints, 3); weights of shapes (frames, shapes); and the frame
 * whose pose each frame shows (frames,).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "PieceMotionPart".
 */
export interface PieceMotionPart {
  kind: string;
  skin: Float32Array;
  joints: Float32Array;
  shapes: Float32Array;
  exposure_start: Int32Array;
}
/**
 * Kind ``strobing``: slip as shown, per frame (NaN unknown); figures as shown, with Ride off, and with rigid Ride.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "StrobingPart".
 */
export interface StrobingPart {
  kind: string;
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
  strobes: boolean;
  rms_px: number | null;
  max_px: number | null;
  max_frame: number | null;
  reversals: number[];
  over_threshold: number;
  feet_slide_m: number | null;
  feet_slide_px: number | null;
  legs_stretch: number | null;
  feet_missed_m: number | null;
}
/**
 * Kind ``subjects``: figures of every character in the camera that is worked on; ``circle_px`` is what counts as sharp.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SubjectsPart".
 */
export interface SubjectsPart {
  kind: string;
  circle_px: number;
  characters: SubjectFigures[];
}
/**
 * One character through a camera, (frames,) each: distance and height of the camera from its face, metres; angle round
 * from its front, degrees, positive to its left; its steady size, its height from crown to soles, its face's blur disc, px.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SubjectFigures".
 */
export interface SubjectFigures {
  name: string;
  distance_m: Float32Array;
  above_m: Float32Array;
  angle_deg: Float32Array;
  size_px: Float32Array;
  height_px: Float32Array;
  blur_px: Float32Array;
}
/**
 * What a change of rate would come to: the scene's ends then, and what is lost or moved, a sentence each.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "RateChangeView".
 */
export interface RateChangeView {
  first: number;
  last: number;
  costs: string[];
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
  revision: number | null;
  edits_since: string[];
  asks: boolean;
}
/**
 * An event: a scene was changed, by whom (empty: somebody without a name) and from which window.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SceneChanged".
 */
export interface SceneChanged {
  scene_id: string;
  revision: number;
  way: "done" | "undone" | "redone";
  edit: string;
  who: string;
  window_id: string | null;
  remark: string;
}
/**
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SceneMade".
 */
export interface SceneMade {
  id: string;
}
/**
 * As the browser puts it together.
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
  room: Room;
  characters: CharacterView[];
  pieces: PieceView[];
  blocks: BlockView[];
  around: string | null;
  shots: string;
  cut_name: string;
  strictness: "rough" | "usual" | "final";
  other_cuts: OtherCutView[];
  timecode: TimecodeView;
  blend: string | null;
  sounds: SoundView[];
  marks: Mark[];
  beside: BesideView | null;
  arc: string | null;
  also: AlsoArc[];
  arc_judgement: string | null;
  match: string | null;
  two_cameras: string | null;
  speed: string | null;
  subjects: string | null;
  fallbacks: string[];
  cameras: CameraView[];
  cut: Shot[];
  readings: ReadingView[];
  judged: boolean;
}
/**
 * Frames ``first`` to ``last``, both included. ``begins`` is the frame by which the cut knows it; ``title`` is its name, or
 * the one that its number gives it. ``mix``: how it takes over from the shot before, where that takes frames.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "Shot".
 */
export interface Shot {
  number: number;
  begins: number;
  first: number;
  last: number;
  camera_id: string;
  name: string;
  title: string;
  note: string;
  state: "open" | "in work" | "done";
  locked: boolean;
  transition: Transition;
  mix: Mix | null;
  handles: Handles;
}
/**
 * A reading of one of its scenes; ``timecode`` is the running one of its first frame.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SequenceReading".
 */
export interface SequenceReading {
  scene_id: string;
  scene_name: string;
  timecode: string;
  reading: ReadingView;
}
/**
 * Of all scenes, what hurts most first; ``failed`` are the names of scenes that could not be judged.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SequenceReadings".
 */
export interface SequenceReadings {
  readings: SequenceReading[];
  failed: string[];
}
/**
 * Kind ``shots``: the shots of the cut, in order.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "ShotsPart".
 */
export interface ShotsPart {
  kind: string;
  shots: Shot[];
}
/**
 * A sound file that has been sent.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SoundFound".
 */
export interface SoundFound {
  digest: string;
  file_name: string;
  seconds: number;
}
/**
 * Shares of the way that are gone on each frame, and that were intended; how far ahead of that it is, px. ``fits_px`` are in
 * the order of the intents.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SpacingChartView".
 */
export interface SpacingChartView {
  first: number;
  last: number;
  intent: ("even" | "slow out" | "slow in" | "slow out and in") | "own";
  length_px: number;
  share: number[];
  intended: number[];
  error_px: number[];
  fits_px: number[];
}
/**
 * Kind ``speed``: how fast a camera moves from each frame to the next, (frames,): its place in m/s, its turn in degrees/s,
 * and still points at the focus distance in px a frame, which should keep below ``limit_px``.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SpeedPart".
 */
export interface SpeedPart {
  kind: string;
  place_m_per_s: Float32Array;
  turn_deg_per_s: Float32Array;
  background_px: Float32Array;
  limit_px: number;
}
/**
 * A character in two pictures of the same frame, (frames, ...) each: where its face is in the one and in the other, px, NaN
 * where it is not there; how far apart, px; how many degrees aside the other camera stands, and how many times as large it
 * has the body; 1 where a cut between the two would hop.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "SubjectInTwo".
 */
export interface SubjectInTwo {
  character_id: string;
  name: string;
  one_px: Float32Array;
  other_px: Float32Array;
  apart_px: Float32Array;
  aside_deg: Float32Array;
  times_as_large: Float32Array;
  hops: Uint8Array;
  nearest_frame: number | null;
}
/**
 * Kind ``time``: on each frame of the scene, how many frames of a thing's file have passed, (frames,).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "TimePart".
 */
export interface TimePart {
  kind: string;
  passed: Float64Array;
}
/**
 * Kind ``two cameras``: what is looked at and the camera that is laid over it, compared; what stands still goes over their
 * screens by so many px a frame, (frames,).
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "TwoCamerasPart".
 */
export interface TwoCamerasPart {
  kind: string;
  subjects: SubjectInTwo[];
  background_one_px: Float32Array;
  background_other_px: Float32Array;
}
/**
 * A thing, in this scene or another, that performs the same file.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "UseView".
 */
export interface UseView {
  scene_id: string;
  scene_name: string;
  revision: number;
  thing_id: string;
  thing_name: string;
}
/**
 * Where else the file of a thing is performed.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "UsesAnswer".
 */
export interface UsesAnswer {
  uses: UseView[];
}
/**
 * Kind ``waveform``: how far a sound swings in every hundredth of a second of its file, 0 to 255.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "WaveformPart".
 */
export interface WaveformPart {
  kind: string;
  peaks: Uint8Array;
}
/**
 * The nine frames around a fault on the screen, in square pixels: ``places``, ``before`` and ``after`` are x, y in turn.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "WhyArcView".
 */
export interface WhyArcView {
  way: "arc";
  first: number;
  places: (number | null)[];
  before: number[];
  after: number[];
  wanted: number[];
  left_px: number[];
}
/**
 * Values on frames from ``first`` on, None where there is none, and the limit for them, where there is one.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "WhySeriesView".
 */
export interface WhySeriesView {
  way: "series";
  first: number;
  values: (number | null)[];
  unit: "px" | "m" | "frames" | "share" | "degrees" | "";
  limit: number | null;
}
/**
 * What a reading was worked out from; None where the frame itself shows it.
 *
 * This interface was referenced by `Everything`'s JSON-Schema
 * via the `definition` "WhyView".
 */
export interface WhyView {
  why: WhyArcView | WhySeriesView | null;
}
