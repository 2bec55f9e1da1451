/** The line above the Picture: what is being looked through, always, and where in time. */
import type { CameraPart } from "../api/generated";
import { cutCamera, part, useSession } from "../state/session";
import { timecode } from "../state/timecode";
import { bakedPose } from "./lens";

export function Caption() {
  const scene = useSession((s) => s.scene)!;
  const frame = useSession((s) => s.frame);
  const looking = useSession((s) => s.looking);
  const frozen = useSession((s) => (s.joint ? s.frozenFrame : null));
  const moving = useSession((s) => s.provisional !== null);
  const focal = useSession((s) => {
    if (s.looking === "roam") return s.roam?.focal_mm;
    const path = part<CameraPart>(s, cutCamera(s)?.path);
    return path ? bakedPose(path, s.frame - scene.first).focal_mm : undefined;
  });
  const camera = useSession((s) => cutCamera(s));
  const facts = [`${focal?.toFixed(0) ?? "–"} mm`];
  if (looking === "cut" && camera) {
    facts.push(camera.locked ? "locked" : "unlocked");
    if (frozen !== null) facts.push(`arc frozen on ${frozen}`);
  }
  return (
    <div className={`caption ${looking}`} data-testid="caption">
      <span className="looking">{looking === "roam" ? "ROAM" : `CUT · ${camera?.name ?? "no camera"}`}</span>
      {looking === "roam" && (
        <span className="soft">your own view; {camera?.name ?? "the camera"} stays where it is</span>
      )}
      <span className="facts">{facts.join(" · ")}</span>
      {looking === "cut" && (camera?.unkeyed || moving) && <span className="unkeyed">moved, not keyed</span>}
      <span className="spacer" />
      <span className="mono">{frame}</span>
      <span className="mono">{timecode(frame - scene.first, scene.rate_float)}</span>
      <span className="mono soft">
        {scene.width} × {scene.height}
      </span>
    </div>
  );
}
