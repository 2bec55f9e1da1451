/** What a scene is made of, side by side over its frames: characters, props and set pieces, scenes that play inside, sounds. */
import type { SceneView } from "../api/generated";
import { type Thing, isPiece, thingsOf } from "../marks/thingHandles";
import { valueOf } from "../state/chosenKeys";
import type { Span } from "../state/hiddenSpans";

type Block = SceneView["blocks"][number];
type SoundView = SceneView["sounds"][number];

export interface Layer {
  id: string;
  name: string;
  kind: "character" | "piece" | "block" | "sound";
  thing?: Thing;
  block?: Block;
  sound?: SoundView;
}

/** Set pieces that neither move nor come and go say nothing over time. */
const isStill = (thing: Thing) =>
  isPiece(thing) && !thing.motion && !thing.showing.hidden.length && thing.kind === "set piece";

export function layersOf(scene: SceneView): Layer[] {
  return [
    ...thingsOf(scene)
      .filter((thing) => !thing.block_id && !isStill(thing))
      .map((thing): Layer => ({
        id: thing.id,
        name: thing.name,
        kind: isPiece(thing) ? "piece" : "character",
        thing,
      })),
    ...scene.blocks.map((block): Layer => ({ id: block.id, name: block.name, kind: "block", block })),
    ...scene.sounds
      .filter(({ sound }) => !sound.nested)
      .map((sound): Layer => ({ id: sound.sound.id, name: sound.sound.name, kind: "sound", sound })),
  ];
}

/** The frames on which a layer is there at all, and (of things) is not. */
export function spanOf({ thing, block, sound }: Layer, scene: SceneView): Span {
  if (block) return [block.first, block.last];
  if (sound) {
    const { start, first_s, last_s } = sound.sound;
    const seconds = Math.min(last_s ?? sound.seconds, sound.seconds) - first_s;
    return [start, start + Math.max(0, Math.ceil(seconds * scene.rate_float) - 1)];
  }
  return thing ? [scene.first, scene.last] : [0, -1];
}

/** The frames over which the motion of a thing's file runs; null where nothing of it moves. */
export function motionOf({ timing, file_frames }: Thing, scene: SceneView): Span | null {
  if (!(file_frames > 0)) return null;
  const start = valueOf(timing.start);
  if (timing.repeats !== "once") return [start, scene.last];
  const [from, to] = [valueOf(timing.first), timing.last === null ? file_frames : valueOf(timing.last)];
  const end = timing.curve?.keys.at(-1);
  if (!end) return [start, start + (to - from) * valueOf(timing.stretch)];
  return [start, valueOf(end.time) + Math.max(0, to - from - end.value) * valueOf(timing.stretch)];
}
