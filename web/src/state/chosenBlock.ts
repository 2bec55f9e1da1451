import type { SceneView } from "../api/generated";
import { type Session, thingNamed } from "./session";

/** The block that is worked on: it, or something that comes with it, was chosen. */
export function chosenBlock({
  scene,
  thingId,
}: Pick<Session, "scene" | "thingId">): SceneView["blocks"][number] | null {
  const wanted = thingNamed({ scene }, thingId)?.block_id ?? thingId;
  return scene?.blocks.find(({ id }) => id === wanted) ?? null;
}
