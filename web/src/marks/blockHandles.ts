/** Where a scene that plays inside is taken hold of: the middle of its ground, which moves it, and before it what turns it. */
import { Vector3 } from "three";
import type { Edit } from "../api/client";
import type { SceneView } from "../api/generated";
import type { Handle } from "./handles";

const REACH_M = 1.2;
export type Block = SceneView["blocks"][number];

export function blockHandles(block: Block): Handle[] {
  const { x, y, z, turn } = block.ground;
  const place = new Vector3(x, y, z);
  const move = (values: Record<string, number>): Edit => ({ edit: "move block", block_id: block.id, values });
  const moved = (to: Vector3) => move({ x: to.x, y: to.y, z: to.z });
  const turned = (to: Vector3) => {
    const wanted = (Math.atan2(to.x - x, to.z - z) * 180) / Math.PI;
    return move({ turn: turn + ((((wanted - turn) % 360) + 540) % 360) - 180 });
  };
  const angle = (turn * Math.PI) / 180;
  const ahead = new Vector3(Math.sin(angle), 0, Math.cos(angle)).multiplyScalar(REACH_M).add(place);
  return [
    { id: "thing", kind: "thing", label: block.name, place, moved, removed: null, ink: "graphite" },
    {
      id: "thing turn",
      kind: "thing turn",
      label: `turn of ${block.name}`,
      place: ahead,
      moved: turned,
      removed: null,
      ink: "graphite",
    },
  ];
}
