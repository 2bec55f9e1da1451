/** The cut: cuts at the playhead and while it plays, and going from shot to shot. */
import type { SceneView } from "../api/generated";
import { edit } from "./edits";
import { lookThroughCut } from "./looking";
import { goTo, stop, togglePlay } from "./playback";
import { cameraNamed, notify, session, setSession, useSession } from "./session";

export type Shot = SceneView["cut"][number];

export function shotAt(scene: SceneView | null, frame: number): Shot | null {
  return scene?.cut.find((shot) => frame <= shot.last) ?? null;
}

/** Cut at the playhead; then look through the cut. */
export const cutHere = () => cutOn(session().frame);

/** Cut on a frame to the camera that one looks through, or looked through last; then look through the cut there. */
export function cutOn(frame: number): void {
  const { scene, looking, cameraId, lastThrough } = session();
  const camera = cameraNamed({ scene }, looking === "camera" ? cameraId : lastThrough);
  const shot = shotAt(scene, frame);
  if (!shot) return;
  if (!camera) {
    notify("Look through the camera that is to be cut to first: a number key, or a click on the Bench.");
    return;
  }
  if (shot.camera_id === camera.id) {
    notify(`The cut shows ${camera.name} on ${frame} already. Look through another camera, then press C.`);
    return;
  }
  edit({ edit: "cut to", frame, camera_id: camera.id });
  lookThroughCut();
  if (frame !== session().frame) goTo(frame);
  notify(`Cut to ${camera.name} on ${frame}.`);
}

/** Take the cut away with which the shot at the playhead begins. */
export function joinHere(): void {
  const { scene, frame } = session();
  const shot = shotAt(scene, frame);
  if (!shot) return;
  if (shot.first === scene!.first) {
    notify("Before the first shot there is none to join it to. Go to a later one.");
    return;
  }
  edit({ edit: "join shots", first: shot.begins });
  notify(`The cut on ${shot.first} is gone: the shot before goes on. Ctrl Z brings it back.`);
}

/** Begin a shot of its own at the playhead, of the same camera. */
export function splitHere(): void {
  const { scene, frame } = session();
  const shot = shotAt(scene, frame);
  if (!shot) return;
  if (shot.first === frame) notify(`A shot begins on ${frame} already. Go to a frame within it.`);
  else {
    edit({ edit: "split shot", frame });
    notify(`Shot ${shot.title} is two from ${frame} on.`);
  }
}

/** To the beginning of the next shot, of this one, or of the one before; round at the ends. */
export function goToShot(by: 1 | -1): void {
  const { scene, frame } = session();
  const at = scene?.cut.findIndex((shot) => frame <= shot.last) ?? -1;
  const shot = scene?.cut[at];
  if (!scene || !shot) return;
  stop();
  if (by < 0 && frame > shot.first) return goTo(shot.first);
  goTo(scene.cut[(at + by + scene.cut.length) % scene.cut.length]!.first);
}

interface Take {
  first: number;
  camera_id: string;
}

let takes: Take[] = [];
let listening: (() => void) | null = null;

/** Play the cut, and cut with the number keys; with the end of playing that ends as well, and what was cut is kept. */
export function cutLive(): void {
  if (session().cuttingLive) return stop();
  stop();
  lookThroughCut();
  takes = [];
  setSession({ cuttingLive: true });
  togglePlay();
  let before = session().frame;
  listening = useSession.subscribe((now) => {
    // Where it begins anew from the start of the range, the take is over.
    if (!now.playing || now.frame < before) endLive(before);
    before = now.frame;
  });
}

/** While it plays: from this frame on the camera in this place of the Bench. */
export function takeLive(number: number): void {
  const { scene, frame } = session();
  const camera = scene?.cameras[number - 1];
  // Whoever takes the camera that is shown already means it to stay.
  if (!scene || !camera || takes.at(-1)?.camera_id === camera.id) return;
  takes = [...takes.filter((take) => take.first < frame), { first: frame, camera_id: camera.id }];
  setSession({ scene: { ...scene, cut: shownLive(scene, takes) }, drawn: session().drawn + 1 });
}

/** The cut as it is seen while it is being made: what was before, then the takes, the last of them to the end. */
function shownLive(scene: SceneView, made: Take[]): Shot[] {
  const from = made[0]!.first;
  const before = scene.cut
    .filter((shot) => shot.first < from)
    .map((shot) => ({ ...shot, last: Math.min(shot.last, from - 1) }));
  const model = scene.cut[0]!;
  const own = made.map((take, at) => ({
    ...model,
    ...take,
    begins: take.first,
    last: (made[at + 1]?.first ?? scene.last + 1) - 1,
    title: "",
    name: "",
    note: "",
    locked: false,
    handles: { before: 0, after: 0 },
  }));
  return [...before, ...own];
}

function endLive(last: number): void {
  listening?.();
  listening = null;
  setSession({ cuttingLive: false });
  stop();
  const made = takes;
  takes = [];
  if (!made.length) {
    notify("Nothing was cut. While it plays, the number keys cut to the cameras of the Bench.");
    return;
  }
  edit({ edit: "cut live", takes: made, last: Math.max(last, made.at(-1)!.first) });
  goTo(made[0]!.first);
  notify(
    `${made.length === 1 ? "One cut" : `${made.length} cuts`} from ${made[0]!.first} to ${last} kept. Ctrl Z throws them away.`,
  );
}
