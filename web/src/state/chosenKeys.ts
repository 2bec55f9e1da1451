/** The keys of a camera that are chosen: at some times, of some groups of its channels; and what is done with all of them. */
import type { CameraView, ChannelsPart, EditRequest } from "../api/generated";
import { CAMERA_CHANNELS, KEY_SHAPES } from "../api/tables";
import { whyLocked } from "./actions";
import { edit } from "./edits";
import { goTo, stop } from "./playback";
import { type Session, notify, part, session, setSession, workedCamera } from "./session";

type OfKind<Kind> = Extract<EditRequest["edit"], { edit: Kind }>;
export type Retime = OfKind<"retime camera keys">;
export type CopiedKeys = OfKind<"paste camera keys">["keys"];
export type KeyShape = OfKind<"shape camera keys">["shape"];
export type KeyGroup = (typeof CAMERA_CHANNELS)[keyof typeof CAMERA_CHANNELS]["group"];

/** `groups` null: of all channels. */
export interface ChosenKeys {
  times: string[];
  groups: KeyGroup[] | null;
}

export interface KeyMark {
  time: string;
  frame: number;
}

/** The keys of each group of a camera's channels, in order of time; groups without keys are left out. */
export function keysOfGroups(channels: ChannelsPart | undefined): Map<KeyGroup, KeyMark[]> {
  if (!channels) return new Map();
  const known = grouped.get(channels) ?? groupsOf(channels);
  grouped.set(channels, known);
  return known;
}

/** Of each part once: there may be thousands. */
const grouped = new WeakMap<ChannelsPart, Map<KeyGroup, KeyMark[]>>();

function groupsOf(channels: ChannelsPart): Map<KeyGroup, KeyMark[]> {
  const found = new Map<KeyGroup, Map<string, number>>();
  for (const [name, keys] of Object.entries(channels.keyed)) {
    const { group } = CAMERA_CHANNELS[name as keyof typeof CAMERA_CHANNELS];
    const marks = found.get(group) ?? new Map<string, number>();
    keys.times.forEach((time, index) => marks.set(time, keys.frames[index]!));
    found.set(group, marks);
  }
  const sorted = [...found].map(([group, marks]): [KeyGroup, KeyMark[]] => [
    group,
    [...marks].map(([time, frame]) => ({ time, frame })).sort((a, b) => a.frame - b.frame),
  ]);
  return new Map(sorted);
}

export const isChosen = (chosen: ChosenKeys | null, time: string, group: KeyGroup | null) =>
  !!chosen?.times.includes(time) && (!group || !chosen.groups || chosen.groups.includes(group));

/** The one time at which something is chosen. */
export const onlyTime = (chosen: ChosenKeys | null) => (chosen?.times.length === 1 ? chosen.times[0]! : null);

export const choose = (times: string[], groups: KeyGroup[] | null = null) =>
  setSession({ chosenKeys: times.length ? { times, groups } : null });

/** With Ctrl: one more, or one less. */
export function chooseAlso(time: string, group: KeyGroup | null): void {
  const { chosenKeys } = session();
  if (!chosenKeys) return choose([time], group && [group]);
  const groups = chosenKeys.groups && group ? [...new Set([...chosenKeys.groups, group])] : chosenKeys.groups;
  const without = chosenKeys.times.filter((t) => t !== time);
  choose(without.length < chosenKeys.times.length ? without : [...chosenKeys.times, time], groups);
}

/** With Shift: everything from what is chosen to this key. */
export function chooseTo(mark: KeyMark, group: KeyGroup | null): void {
  const { chosenKeys } = session();
  const camera = workedCamera(session());
  if (!chosenKeys || !camera) return choose([mark.time], group && [group]);
  const frames = camera.keys.filter((k) => chosenKeys.times.includes(k.time)).map((k) => k.frame);
  const [from, to] = [Math.min(mark.frame, ...frames), Math.max(mark.frame, ...frames)];
  const groups = chosenKeys.groups && group ? [...new Set([...chosenKeys.groups, group])] : chosenKeys.groups;
  choose(
    camera.keys.filter((k) => from <= k.frame && k.frame <= to).map((k) => k.time),
    groups,
  );
}

export function chooseAll(): void {
  const camera = workedCamera(session());
  if (!camera?.keys.length) return notify("The camera has no keys yet. K sets one.");
  choose(camera.keys.map((key) => key.time));
  notify(`All ${camera.keys.length} keys of ${camera.name} are chosen.`);
}

/** Those of some times at which a camera has keys. */
export function among(camera: CameraView, times: string[]): string[] {
  const own = new Set(camera.keys.map((key) => key.time));
  return times.filter((time) => own.has(time));
}

/** What is chosen, or the key on this frame; null, and the reason told, where there is none or it is locked. */
function atHand(state: Session = session()): { camera: CameraView; chosen: ChosenKeys } | null {
  const camera = workedCamera(state);
  const why = camera && whyLocked(camera);
  if (why) notify(why, "warning");
  if (!camera || why) return null;
  // One key that was chosen before gives way to the one that the playhead stands on.
  const here = { times: [String(state.frame)], groups: null };
  const isOnKey = camera.keys.some((key) => key.time === here.times[0]);
  const wanted = !state.chosenKeys || (onlyTime(state.chosenKeys) && isOnKey) ? here : state.chosenKeys;
  const times = among(camera, wanted.times);
  if (times.length) return { camera, chosen: { ...wanted, times } };
  notify("There is no camera key on this frame. Click a cross in the Sheet to choose one.");
  return null;
}

const asKeys = (camera: CameraView, { times, groups }: ChosenKeys) => ({
  camera_id: camera.id,
  times,
  groups,
});

const howMany = (times: string[], camera: CameraView) =>
  times.length === 1 ? `Key of ${camera.name} at ${times[0]}` : `${times.length} keys of ${camera.name}`;

export function deleteChosen(): void {
  const found = atHand();
  if (!found) return;
  edit({ edit: "delete camera keys", keys: asKeys(found.camera, found.chosen) });
  choose([]);
  notify(`${howMany(found.chosen.times, found.camera)} deleted. Ctrl Z brings back what was there.`);
}

export function shapeChosen(shape: KeyShape): void {
  const found = atHand();
  if (found) edit({ edit: "shape camera keys", keys: asKeys(found.camera, found.chosen), shape });
}

/** The edits that make a stretch of chosen keys better as a whole. */
export const fewerOf = (camera: CameraView, chosen: ChosenKeys, error_px: number) =>
  ({ edit: "reduce camera keys", keys: asKeys(camera, chosen), error_px }) as const;
export const smoothedOf = (camera: CameraView, chosen: ChosenKeys, strength: number) =>
  ({ edit: "smooth camera keys", keys: asKeys(camera, chosen), strength }) as const;
export const evenedOf = (camera: CameraView, chosen: ChosenKeys) =>
  ({ edit: "even speed", keys: asKeys(camera, chosen) }) as const;

/** The edit that moves the chosen keys: by some frames, or stretched about a frame by a ratio. */
export function retimeOf(camera: CameraView, chosen: ChosenKeys, how: Partial<Retime>): Retime {
  return { edit: "retime camera keys", keys: asKeys(camera, chosen), ...how } as Retime;
}

/** Chosen keys are known by their times: those that they come to. */
export function retimeChosen(camera: CameraView, chosen: ChosenKeys, how: Partial<Retime>): void {
  edit(retimeOf(camera, chosen, how));
  choose(
    chosen.times.map((time) => timeAfter(time, how)),
    chosen.groups,
  );
}

export function nudgeChosen(by: number): void {
  const found = atHand();
  if (!found) return;
  retimeChosen(found.camera, found.chosen, { by: String(by) });
  const { times } = found.chosen;
  const one = `Key of ${found.camera.name} moved from ${times[0]} to ${timeAfter(times[0]!, { by: String(by) })}.`;
  notify(
    times.length === 1
      ? one
      : `${howMany(times, found.camera)} come a frame ${by > 0 ? "later" : "earlier"}.`,
  );
}

/** First and last frame of what is chosen. */
export function reachOf(camera: CameraView, chosen: ChosenKeys): [number, number] {
  const times = new Set(chosen.times);
  const frames = camera.keys.filter((key) => times.has(key.time)).map((key) => key.frame);
  return [frames[0]!, frames.at(-1)!];
}

/** Run the chosen keys backwards, within the frames that they take. */
export function mirrorChosen(): void {
  const found = atHand();
  if (!found) return;
  const [first, last] = reachOf(found.camera, found.chosen);
  const ends = [first, last].map((frame) => found.camera.keys.find((key) => key.frame === frame)!.time);
  const [from, to] = ends as [string, string];
  const about = fraction(from);
  const end = fraction(to);
  const middle: Fraction = [about[0] * end[1] + end[0] * about[1], 2 * about[1] * end[1]];
  retimeChosen(found.camera, found.chosen, { stretch: "-1", about: textOf(middle) });
}

export function copyChosen(): void {
  const state = session();
  const camera = workedCamera(state);
  const chosen = state.chosenKeys ?? { times: [String(state.frame)], groups: null };
  const channels = camera && part<ChannelsPart>(state, camera.channels);
  const copied: CopiedKeys = {};
  for (const [name, keys] of Object.entries(channels?.keyed ?? {})) {
    const { group } = CAMERA_CHANNELS[name as keyof typeof CAMERA_CHANNELS];
    if (chosen.groups && !chosen.groups.includes(group)) continue;
    const own = keys.times.flatMap((time, index) => {
      if (!chosen.times.includes(time)) return [];
      const shape = KEY_SHAPES[keys.shapes[index]!]!;
      const [inFrames, inValue, outFrames, outValue] = keys.handles.subarray(index * 4, index * 4 + 4);
      const handle = (frames: number, value: number) =>
        shape === "curve" && Number.isFinite(frames) ? { frames, value } : null;
      return [
        {
          time,
          value: keys.values[index]!,
          shape,
          handle_in: handle(inFrames!, inValue!),
          handle_out: handle(outFrames!, outValue!),
        },
      ];
    });
    if (own.length) copied[name] = own;
  }
  if (!Object.keys(copied).length)
    return notify("There is no camera key on this frame to copy. Click a cross in the Sheet to choose one.");
  setSession({ copiedKeys: copied });
  notify(`${howMany(chosen.times, camera!)} copied. Ctrl V sets them from the playhead on.`);
}

export interface Pasting {
  /** At the times from which they were copied, not at the playhead. */
  inPlace?: boolean;
  mirrors?: boolean;
  clears?: boolean;
}

export function pasteKeys({ inPlace = false, mirrors = false, clears = false }: Pasting = {}): void {
  const { copiedKeys, frame } = session();
  const camera = workedCamera(session());
  const why = camera && whyLocked(camera);
  if (why) notify(why, "warning");
  if (!camera || why) return;
  if (!copiedKeys) return notify("Nothing is copied yet. Choose keys in the Sheet and press Ctrl C.");
  const times = [...new Set(Object.values(copiedKeys).flatMap((keys) => keys.map((key) => key.time)))];
  const first = times.reduce((a, b) => (valueOf(a) <= valueOf(b) ? a : b));
  const at = inPlace ? first : String(frame);
  edit({ edit: "paste camera keys", camera_id: camera.id, keys: copiedKeys, at, mirrors, clears });
  if (!mirrors) {
    const by = minus(at, first);
    choose(times.map((time) => timeAfter(time, { by })));
  }
  notify(
    `${times.length === 1 ? "One key" : `${times.length} keys`} set on ${camera.name}${inPlace ? " at the same frames" : ` from ${frame} on`}.`,
  );
}

/** To the key before or after the playhead, which is then chosen. */
export function goToKey(way: 1 | -1): void {
  const { frame } = session();
  const camera = workedCamera(session());
  const keys = camera?.keys ?? [];
  const found =
    way > 0
      ? keys.find((key) => Math.round(key.frame) > frame)
      : keys.findLast((key) => Math.round(key.frame) < frame);
  if (!found)
    return notify(`${camera?.name ?? "The camera"} has no key ${way > 0 ? "after" : "before"} ${frame}.`);
  stop();
  choose([found.time]);
  goTo(Math.round(found.frame));
}

type Fraction = [number, number];

/** Of an exact time such as 2003/2: the one over the other. */
export function fraction(text: string): Fraction {
  const [over, under = "1"] = text.split("/");
  return [Number(over), Number(under)];
}

const divisor = (a: number, b: number): number => (b ? divisor(b, a % b) : Math.abs(a));

/** As exact times are written. */
function textOf([over, under]: Fraction): string {
  const by = divisor(over, under) || 1;
  const [n, d] = under < 0 ? [-over / by, -under / by] : [over / by, under / by];
  return d === 1 ? String(n) : `${n}/${d}`;
}

export const valueOf = (text: string) => fraction(text)[0] / fraction(text)[1];

function minus(one: string, other: string): string {
  const [a, b] = [fraction(one), fraction(other)];
  return textOf([a[0] * b[1] - b[0] * a[1], a[1] * b[1]]);
}

/** A time some frames later. */
export const later = (time: string, frames: number) => timeAfter(time, { by: String(frames) });

/** Where a time comes to: stretched about one, then moved. */
export function timeAfter(time: string, { by = "0", stretch = "1", about = "0" }: Partial<Retime>): string {
  const [t, a, s, m] = [time, about, stretch, by].map((text) => fraction(String(text))) as Fraction[];
  const away: Fraction = [t![0] * a![1] - a![0] * t![1], t![1] * a![1]];
  const stretched: Fraction = [away[0] * s![0], away[1] * s![1]];
  const placed: Fraction = [stretched[0] * a![1] + a![0] * stretched[1], stretched[1] * a![1]];
  return textOf([placed[0] * m![1] + m![0] * placed[1], placed[1] * m![1]]);
}
