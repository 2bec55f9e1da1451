/** Sounds of the scene, heard while it plays and while one goes from frame to frame. */
import type { SceneView } from "../api/generated";
import { fetchSound } from "../api/client";
import { clockMs, goByClockOf } from "./clock";
import { session, useSession } from "./session";

type SoundView = SceneView["sounds"][number];

/** Between asking for a sound and hearing it, seconds. */
const LEAD_S = 0.02;
const LEAST_SNIPPET_S = 0.06;

let context: AudioContext | null = null;
const buffers = new Map<string, Promise<AudioBuffer | null>>();
let sounding: AudioBufferSourceNode[] = [];
/** Counts starts and stops: what was asked for before the last of them comes too late. */
let turn = 0;

/** What of a sound is heard from a frame on: after so many seconds, from and to where in its file. */
export function portion(
  { sound, seconds }: SoundView,
  frame: number,
  rate: number,
): { after: number; from: number; to: number } | null {
  const into = (frame - sound.start) / rate;
  const to = Math.min(sound.last_s ?? seconds, seconds);
  const from = sound.first_s + Math.max(0, into);
  return from < to ? { after: Math.max(0, -into), from, to } : null;
}

const audible = (scene: SceneView) => scene.sounds.filter(({ sound }) => !sound.muted);

function decoded(digest: string): Promise<AudioBuffer | null> {
  let buffer = buffers.get(digest);
  if (!buffer) {
    const into = context!;
    buffer = fetchSound(digest)
      .then((data) => into.decodeAudioData(data))
      .catch(() => {
        buffers.delete(digest); // it is asked for again
        return null;
      });
    buffers.set(digest, buffer);
  }
  return buffer;
}

/** Fetch and decode what will be heard next, so that it comes in time. */
export function getReadyToHear(sounds: SceneView["sounds"]): void {
  const heard = sounds.filter(({ sound }) => !sound.muted);
  if (!heard.length) return;
  context ??= new AudioContext();
  for (const { sound } of heard) void decoded(sound.digest);
}

/** Hear the scene from a frame on; picture and sound go by one clock from then. */
export async function hearFrom(frame: number): Promise<void> {
  stopHearing();
  const { scene, everyFrame } = session();
  if (!scene || everyFrame || !audible(scene).length) return;
  const mine = turn;
  const begunMs = clockMs();
  context ??= new AudioContext();
  await context.resume();
  const ready = await Promise.all(
    audible(scene).map(async (view) => ({ view, buffer: await decoded(view.sound.digest) })),
  );
  if (mine !== turn) return;
  goByClockOf(context);
  // What it took to get ready has passed already.
  const late = (clockMs() - begunMs) / 1000;
  for (const { view, buffer } of ready) {
    if (buffer) sound(view, buffer, frame + late * scene.rate_float, scene.rate_float, Infinity);
  }
}

/** Hear what one frame has. */
export async function hearFrame(frame: number): Promise<void> {
  const { scene, playing } = session();
  if (!scene || playing || !context || context.state !== "running") return;
  stopHearing();
  const mine = turn;
  for (const view of audible(scene)) {
    const buffer = await decoded(view.sound.digest);
    if (mine !== turn) return;
    if (buffer) sound(view, buffer, frame, scene.rate_float, Math.max(LEAST_SNIPPET_S, 1 / scene.rate_float));
  }
}

export function stopHearing(): void {
  turn++;
  for (const node of sounding) node.stop();
  sounding = [];
  goByClockOf(null);
}

function sound(view: SoundView, buffer: AudioBuffer, frame: number, rate: number, longest: number): void {
  const heard = portion(view, frame, rate);
  if (!heard || heard.after > longest) return;
  const node = new AudioBufferSourceNode(context!, { buffer });
  const gain = new GainNode(context!, { gain: 10 ** (view.sound.gain_db / 20) });
  node.connect(gain).connect(context!.destination);
  node.start(
    context!.currentTime + LEAD_S + heard.after,
    heard.from + LEAD_S,
    Math.min(heard.to - heard.from, longest),
  );
  sounding.push(node);
}

// What plays is heard; a change of the sounds while it plays is heard at once.
useSession.subscribe((now, before) => {
  if (now.playing && before.playing && now.scene && before.scene && now.scene.sounds !== before.scene.sounds)
    if (JSON.stringify(now.scene.sounds) !== JSON.stringify(before.scene.sounds)) void hearFrom(now.frame);
  if (!now.playing && now.frame !== before.frame) void hearFrame(now.frame);
});
