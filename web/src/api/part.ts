/** What answers name and the browser keeps: every kind of part. */
import type {
  ArcJudgementPart,
  ArcPart,
  BlendPart,
  CameraPart,
  CameraView,
  CarriedPart,
  ChangedPart,
  ChannelsPart,
  CorrectionsPart,
  MatchPart,
  MotionPart,
  PieceMotionPart,
  PlacingPart,
  RigPart,
  ShotsPart,
  ShownPart,
  SpeedPart,
  StrobingPart,
  SubjectsPart,
  TimePart,
  TwoCamerasPart,
  WaveformPart,
} from "./generated";

export type Part =
  | RigPart
  | MotionPart
  | ShownPart
  | CarriedPart
  | PieceMotionPart
  | PlacingPart
  | ChangedPart
  | CorrectionsPart
  | StrobingPart
  | CameraPart
  | CameraView
  | ChannelsPart
  | BlendPart
  | SpeedPart
  | ShotsPart
  | MatchPart
  | TwoCamerasPart
  | TimePart
  | WaveformPart
  | SubjectsPart
  | ArcPart
  | ArcJudgementPart;
