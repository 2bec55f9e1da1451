/** Lines over the Picture: safe areas, the arc, the chosen joint; in Roam, the cameras with their view wedges. */
import { useRef } from "react";
import type { ArcPart, RigPart } from "../api/generated";
import { judgedThing, part, useSession } from "../state/session";
import { CameraBodies, RoamHandles, ThingMarks } from "../marks/CameraBodies";
import { FramingMarks } from "./FramingMarks";
import { ArcHand } from "./ArcHand";
import { ActionLine } from "./ActionLine";
import { Arcs, arcPlace } from "./Arcs";
import { RoamArc } from "./RoamArc";
import { GuideLines } from "./GuideLines";
import { Label } from "./Label";
import { Measure } from "./Measure";
import type { HoveredJoint } from "./gestures";
import { shownJoints } from "../state/joints";
import { type FrameRect, toScreen } from "../optics/lens";
import { useEachFrame } from "../state/eachFrame";
import { currentSight } from "../state/sight";

const ACTION_SAFE = 0.93;
const TITLE_SAFE = 0.9;

interface OverlayProps {
  rect: FrameRect;
  size: { width: number; height: number };
  hovered: HoveredJoint | null;
}

/** Two layers: what stands still while it plays, and what moves with the frame, so that only that is drawn again. */
export function Overlay({ rect, size, hovered }: OverlayProps) {
  const showSafe = useSession((s) => s.showSafe);
  const showArc = useSession((s) => s.showArc);
  const actionLine = useSession((s) => s.looks.actionLine);
  const roaming = useSession((s) => s.looking === "roam");
  const playing = useSession((s) => s.playing);
  const box = `0 0 ${size.width} ${size.height}`;
  return (
    <>
      <svg className="overlay" viewBox={box}>
        {!roaming && showSafe && <SafeLines rect={rect} />}
        {!roaming && <GuideLines rect={rect} />}
        {actionLine && <ActionLine rect={rect} />}
        {!roaming && showArc && <Arcs rect={rect} />}
        {roaming && <CameraBodies rect={rect} />}
        {roaming && showArc && <RoamArc rect={rect} />}
      </svg>
      <svg className="overlay" viewBox={box}>
        {!roaming && showArc && <Now rect={rect} />}
        <ChosenJoint rect={rect} />
        <Measure rect={rect} />
        {hovered && (
          <g data-testid="hovered-joint">
            <circle
              cx={hovered.x}
              cy={hovered.y}
              r={5}
              fill="none"
              stroke="var(--over-halo)"
              strokeWidth={3.5}
            />
            <circle
              cx={hovered.x}
              cy={hovered.y}
              r={5}
              fill="none"
              stroke="var(--over-red)"
              strokeWidth={1.8}
            />
            <Label
              x={hovered.x + 10}
              y={hovered.y - 8}
              text={`${hovered.thing.name} ${hovered.name}`}
              color="var(--over-red)"
            />
          </g>
        )}
      </svg>
      {!playing && (
        <svg className="overlay hands" viewBox={box}>
          {roaming ? (
            <RoamHandles rect={rect} />
          ) : (
            <>
              <FramingMarks rect={rect} />
              <ThingMarks rect={rect} />
              {showArc && <ArcHand rect={rect} />}
            </>
          )}
        </svg>
      )}
    </>
  );
}

function SafeLines({ rect }: { rect: FrameRect }) {
  const inner = (share: number) => ({
    x: rect.x + (rect.width * (1 - share)) / 2,
    y: rect.y + (rect.height * (1 - share)) / 2,
    width: rect.width * share,
    height: rect.height * share,
  });
  return (
    <g fill="none" stroke="var(--over-halo)" data-testid="safe-lines">
      <rect {...inner(ACTION_SAFE)} strokeOpacity={0.85} />
      <rect {...inner(TITLE_SAFE)} strokeOpacity={0.7} strokeDasharray="5 4" />
    </g>
  );
}

/** Where the chosen joint is on this frame, as shown. */
function ChosenJoint({ rect }: { rect: FrameRect }) {
  const state = useSession();
  const { scene, joint } = state;
  const thing = judgedThing(state);
  const rig = part<RigPart>(state, thing?.rig);
  const sight = currentSight(state);
  const index = joint ? (rig?.joints.indexOf(joint) ?? -1) : -1;
  if (!scene || !sight || index < 0) return null;
  const place = shownJoints(state, thing)[index];
  const seen = place && toScreen(place, sight, scene);
  if (!seen) return null;
  const x = rect.x + (seen.x * rect.width) / scene.width;
  const y = rect.y + (seen.y * rect.height) / scene.height;
  return (
    <g data-testid="chosen-joint" data-x={seen.x.toFixed(2)} data-y={seen.y.toFixed(2)}>
      <circle cx={x} cy={y} r={8} fill="none" stroke="var(--over-halo)" strokeWidth={4} strokeOpacity={0.8} />
      <circle cx={x} cy={y} r={8} fill="none" stroke="var(--over-ink)" strokeWidth={2} />
    </g>
  );
}

/** The current frame's place on the arc: a cross around it. */
function Now({ rect }: { rect: FrameRect }) {
  const scene = useSession((s) => s.scene)!;
  const arc = useSession((s) => part<ArcPart>(s, s.scene?.arc));
  const cross = useRef<SVGPathElement>(null);
  useEachFrame((frame) => {
    const place = arc && arcPlace(arc, frame - scene.first, rect, scene);
    cross.current!.style.display = place ? "" : "none";
    if (place) cross.current!.style.transform = `translate(${place[0]}px, ${place[1]}px)`;
  });
  const d = "M-11 0h7m8 0h7M0 -11v7m0 8v7";
  return (
    <path ref={cross} d={d} stroke="var(--over-ink)" strokeWidth={2} fill="none" data-testid="arc-now" />
  );
}
