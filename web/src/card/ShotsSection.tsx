/** The shots of the cut: reached, named, given another camera, moved and joined from here. */
import "./shots.css";
import { Button, Select } from "@mantine/core";
import { useState } from "react";
import type { SceneView } from "../api/generated";
import { SHOT_STATES } from "../api/tables";
import { type Shot, cutHere, cutLive, shotAt, splitHere } from "../state/cutting";
import { toggleMatching } from "../state/matching";
import { useCalmFrame } from "../state/calmFrame";
import { cameraNamed, useSession } from "../state/session";
import { OtherCuts } from "./OtherCuts";
import { ShotRow } from "./ShotRow";

/** So many are listed around the one at the playhead. */
const MOST_LISTED = 24;

const ORDERS = {
  time: (shot: Shot) => shot.first,
  name: (shot: Shot) => shot.title,
  camera: (shot: Shot, scene: SceneView) => cameraNamed({ scene }, shot.camera_id)?.name ?? "",
  length: (shot: Shot) => shot.last - shot.first,
  state: (shot: Shot) => SHOT_STATES.indexOf(shot.state),
};
type Order = keyof typeof ORDERS;

/** In the wanted order; those that are alike in the order of time. */
function sorted(scene: SceneView, order: Order): Shot[] {
  if (order === "time") return scene.cut;
  const by = (shot: Shot) => ORDERS[order](shot, scene);
  return [...scene.cut].sort((a, b) => (by(a) < by(b) ? -1 : by(a) > by(b) ? 1 : 0));
}

export function ShotsSection() {
  const scene = useSession((s) => s.scene)!;
  const live = useSession((s) => s.cuttingLive);
  const frame = useCalmFrame();
  const here = shotAt(scene, frame);
  const [order, setOrder] = useState<Order>("time");
  const shots = sorted(scene, order);
  const at = here ? shots.indexOf(here) : 0;
  const from = Math.max(0, Math.min(at - MOST_LISTED / 2, shots.length - MOST_LISTED));
  const listed = shots.slice(from, from + MOST_LISTED);
  const after = scene.cut.length - from - listed.length;
  return (
    <section aria-label="Shots" className="shots">
      <h2 className="of-camera">
        Shots <small>{scene.cut.length === 1 ? "one camera shows all" : scene.cut.length}</small>
      </h2>
      {scene.cut.length === 1 && (
        <p className="why">
          Go to a frame, look through another camera (1 … 9), press <kbd>C</kbd>.
        </p>
      )}
      {scene.cut.length > 2 && (
        <Select
          size="xs"
          aria-label="In the order of"
          className="order"
          data={Object.keys(ORDERS).map((value) => ({ value, label: `in order of ${value}` }))}
          value={order}
          allowDeselect={false}
          onChange={(value) => value && setOrder(value as Order)}
        />
      )}
      {from > 0 && <p className="why">{from} before these</p>}
      <ol>
        {listed.map((shot) => (
          <ShotRow key={shot.number} shot={shot} cameras={scene.cameras} isHere={shot === here} />
        ))}
      </ol>
      {after > 0 && <p className="why">{after} after these</p>}
      <div className="actions">
        <Button onClick={cutHere} title="C: to the camera that was looked through last">
          Cut here
        </Button>
        <Button onClick={splitHere} title="Alt X">
          Split
        </Button>
        <Button
          onClick={toggleMatching}
          title="Alt H: the last picture before the cut and the first after it"
        >
          Match
        </Button>
        <Button
          onClick={cutLive}
          title="Shift Space; the number keys cut"
          variant={live ? "filled" : "default"}
        >
          {live ? "Stop" : "Cut live"}
        </Button>
      </div>
      <OtherCuts />
    </section>
  );
}
