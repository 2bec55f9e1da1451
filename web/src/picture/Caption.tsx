/** The line above the Picture: what is being looked through, always, and where in time. */
import { cameraNamed, setSession, useSession, workedCamera } from "../state/session";
import { toggleBeside } from "../state/beside";
import { shotAt } from "../state/cutting";
import { showShare } from "../state/judgingLooks";
import { toggleRecording } from "../state/recording";
import { mixAt, mixText } from "../state/transitions";
import { sceneTimecode } from "../state/timecode";
import { bakedPose } from "../optics/lens";
import { workedPath } from "../state/sight";
import { lookAtVersion, lookedAtCharacter, lookedAtVersion } from "../state/versionLook";
import { FrameText } from "../widgets/FrameText";

const TITLES = { cut: "CUT", camera: "CAMERA", roam: "ROAM" };

export function Caption() {
  const scene = useSession((s) => s.scene)!;
  const looking = useSession((s) => s.looking);
  const frozen = useSession((s) => (s.joint ? s.frozenFrame : null));
  const moving = useSession((s) => s.provisional !== null);
  const walking = useSession((s) => s.walkHeight);
  const comparing = useSession((s) => s.comparing);
  const beside = useSession((s) => s.beside);
  const flipped = useSession((s) => s.flipped);
  const version = useSession(lookedAtVersion);
  const ofVersion = useSession(lookedAtCharacter);
  const focal = useSession((s) => {
    if (s.looking === "roam") return s.roam?.focal_mm;
    const path = workedPath(s);
    return path ? Math.round(bakedPose(path, s.frame - scene.first).focal_mm) : undefined;
  });
  const camera = useSession((s) => workedCamera(s));
  const shot = useSession((s) => (s.looking === "cut" ? shotAt(s.scene, s.frame) : null));
  const { camera: share, heldFrame } = useSession((s) => s.looks);
  const live = useSession((s) => s.cuttingLive);
  const recording = useSession((s) => s.recording);
  const mix = useSession((s) => {
    const now = s.looking === "cut" ? mixAt(s.scene, s.frame) : null;
    return now && mixText(now);
  });
  const parallel = useSession((s) =>
    s.looking === "roam" ? undefined : workedPath(s)?.view_height_m[s.frame - scene.first],
  );
  const facts = [
    parallel !== undefined ? `parallel, ${parallel.toFixed(2)} m high` : `${focal?.toFixed(0) ?? "–"} mm`,
  ];
  if (mix) facts.unshift(mix);
  if (looking !== "roam" && camera) {
    if (camera.mount.kind !== "free") facts.push(camera.mount.kind);
    if (camera.framing) facts.push("held");
    const stepsWith = scene.characters.find(({ id }) => id === camera.steps_with);
    if (stepsWith) facts.push(`on the poses of ${stepsWith.name}`);
    facts.push(lockWords(camera.locks));
    if (frozen !== null) facts.push(`arc frozen on ${frozen}`);
  }
  if (looking === "roam" && walking !== null) facts.push(`walking at ${walking.toFixed(2)} m`);
  const shownView =
    comparing && cameraNamed({ scene }, comparing.cameraId)?.views.find((v) => v.id === comparing.views[0]);
  return (
    <div
      className={`caption ${looking} ${live ? "live" : ""} ${recording ? "recording" : ""}`}
      data-testid="caption"
    >
      <div className="what">
        <span className="looking" title={looking === "roam" ? undefined : camera?.name}>
          {TITLES[looking]}
          {shot && (scene.cut.length > 1 || shot.name) && ` · ${shot.title}`}
          {looking !== "roam" && ` · ${camera?.name ?? "no camera"}`}
        </span>
        {looking === "roam" && (
          <span className="soft" title={`${camera?.name ?? "The camera"} stays where it is`}>
            your own view
          </span>
        )}
        {recording && (
          <button className="toggle" aria-pressed="true" title="Alt K ends it" onClick={toggleRecording}>
            moving sets keys ×
          </button>
        )}
        {share !== "moves" && (
          <button className="toggle" aria-pressed="true" onClick={() => showShare("moves")}>
            {share === "alone" ? "camera alone" : "camera still"} on {heldFrame} ×
          </button>
        )}
        {live && <span className="unkeyed">the number keys cut</span>}
        <span className="facts" title={facts.join(" · ")}>
          {facts.join(" · ")}
        </span>
        {shownView && (
          <button className="toggle" aria-pressed="true" onClick={() => setSession({ comparing: null })}>
            saved view “{shownView.name}” ×
          </button>
        )}
        {version && ofVersion && (
          <button
            className="toggle"
            aria-pressed="true"
            title="It is looked at, and nothing stored: a click shows again what is performed"
            onClick={() => lookAtVersion(ofVersion, null)}
          >
            {ofVersion.name} as in {version.name} ×
          </button>
        )}
        {beside && (
          <button
            className="toggle"
            aria-pressed="true"
            title="Shift S flips the two; S shows none"
            onClick={toggleBeside}
          >
            {flipped ? `${beside.name} solid, as performed the ghost` : `${beside.name} as a ghost`} ×
          </button>
        )}
        {looking !== "roam" && ((camera?.unkeyed.length ?? 0) > 0 || moving) && (
          <span className="unkeyed">moved, not keyed</span>
        )}
      </div>
      <div className="when">
        <FrameText className="mono" of={String} />
        <FrameText className="mono" of={(frame) => sceneTimecode(scene, frame)} />
        <span className="mono soft">
          {scene.width} × {scene.height}
        </span>
      </div>
    </div>
  );
}

/** What is locked, in a word or two. */
export function lockWords(locks: string[]): string {
  if (!locks.length) return "unlocked";
  return locks.length === 3 ? "locked" : `${locks.join(" and ")} locked`;
}
