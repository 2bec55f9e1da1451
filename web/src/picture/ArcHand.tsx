/** The cross on an arc at the playhead, taken hold of: it brings the joint to another place in the picture, as a correction. */
import { useEffect, useState } from "react";
import type { ArcPart } from "../api/generated";
import type { FrameRect } from "../optics/lens";
import { holderOf } from "../marks/thingHandles";
import { isMeshPoint } from "../state/meshPoints";
import { correctingCamera } from "../state/correcting";
import { judgedThing, part, useSession } from "../state/session";
import { type Place, arcPlace } from "./Arcs";
import { GrabbedMark } from "./GrabbedMark";
import { Label } from "./Label";

const RADIUS = 10;

export function ArcHand({ rect }: { rect: FrameRect }) {
  const scene = useSession((s) => s.scene)!;
  const frame = useSession((s) => s.frame);
  const arc = useSession((s) => part<ArcPart>(s, s.scene?.arc));
  const thing = useSession((s) => judgedThing(s));
  const joint = useSession((s) => s.joint);
  const camera = useSession(correctingCamera);
  const fades = useSession((s) => s.looks.correctionFades);
  const held = useSession((s) => s.gesturing);
  const [to, setTo] = useState<Place | null>(null);
  useEffect(() => {
    if (!held) setTo(null);
  }, [held]);
  const at = arc && arcPlace(arc, frame - scene.first, rect, scene);
  const nobody = thing && "holds" in thing && !holderOf(thing, frame)?.character_id;
  if (!at || !thing || !joint || camera === undefined || isMeshPoint(joint) || nobody || thing.block_id)
    return null;
  const inFrame = (there: Place): [number, number] => [
    ((there[0] - at[0]) * scene.width) / rect.width,
    ((there[1] - at[1]) * scene.height) / rect.height,
  ];
  const far = to && inFrame(to);
  return (
    <g className="arc-hand" data-testid="arc-hand" data-x={at[0].toFixed(1)} data-y={at[1].toFixed(1)}>
      {to && far && (
        <>
          <path
            d={`M${at[0]} ${at[1]}L${to[0]} ${to[1]}`}
            stroke="var(--over-halo)"
            strokeWidth={4}
            strokeOpacity={0.7}
          />
          <path d={`M${at[0]} ${at[1]}L${to[0]} ${to[1]}`} stroke="var(--over-red)" strokeWidth={1.5} />
          <Label
            x={to[0] + 10}
            y={to[1] - 8}
            text={`${Math.hypot(...far).toFixed(1)} px`}
            color="var(--over-red)"
          />
        </>
      )}
      <GrabbedMark
        at={at}
        says={`${joint}: rest on it, then drag it to where it should be`}
        moved={(there) => {
          setTo([there.x, there.y]);
          return {
            edit: "correct joint",
            thing_id: thing.id,
            joint,
            on_frame: frame,
            camera_id: camera,
            shift_px: inFrame([there.x, there.y]),
            fades,
          };
        }}
      >
        <circle r={RADIUS + 3} fill="transparent" />
        <circle className="body" r={RADIUS} />
      </GrabbedMark>
    </g>
  );
}
