/** The scene is worked on inside of another: as which block of it, by the address of the page. */
import type { View } from "../api/generated";

const IN_ADDRESS = /[?&]in=([0-9a-f-]{36})\.([0-9a-f-]{36})/;

export function within(): NonNullable<View["within"]> | null {
  const [, scene_id, block_id] = IN_ADDRESS.exec(location.search) ?? [];
  return scene_id && block_id ? { scene_id, block_id } : null;
}

/** Go to a scene, alone or inside of another; the browser goes back. */
export function goToScene(id: string, inside: { scene_id: string; block_id: string } | null = null): void {
  const search = inside ? `?in=${inside.scene_id}.${inside.block_id}` : "";
  history.pushState(null, "", `/scenes/${id}${search}`);
  dispatchEvent(new PopStateEvent("popstate"));
}
