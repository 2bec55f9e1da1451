/** Coverage: cameras, or another cut, that play beside what is looked through, in step with it. */
import type { SceneView, ShotsPart } from "../api/generated";
import type { FrameRect, Sight } from "../optics/lens";
import { frameAspect } from "../optics/lens";
import { type Session, cameraNamed, notify, part, session, setSession, workedCamera } from "./session";
import { namedSight } from "./sight";

export const MOST_BESIDE = 3;
const [MARGIN, HEAD] = [10, 26];
/** Of the height of the place for pictures. */
const GREATEST_SHARE = 0.34;
const OTHER_CUT = "cut ";

export const otherCutValue = (id: string) => OTHER_CUT + id;

/** Show those beside, or no longer: first the ones that the cut does not show. */
export function toggleCoverage(): void {
  const state = session();
  const { scene } = state;
  if (!scene) return;
  if (state.coverage) return setSession({ coverage: null });
  const looked = state.looking === "camera" ? workedCamera(state)?.id : null;
  const inCut = new Set(scene.cut.map((shot) => shot.camera_id));
  const others = scene.cameras.filter((camera) => camera.id !== looked);
  const first = [...others.filter(({ id }) => !inCut.has(id)), ...others.filter(({ id }) => inCut.has(id))];
  const wanted = [
    ...scene.other_cuts.slice(0, 1).map(({ id }) => otherCutValue(id)),
    ...first.map(({ id }) => id),
  ].slice(0, MOST_BESIDE);
  if (!wanted.length) notify("There is one camera: make another, and it can play beside this one.");
  else setSession({ coverage: wanted });
}

/** What one of the places beside shows on this frame. */
export function coverageSight(state: Session, value: string): Sight | null {
  if (!value.startsWith(OTHER_CUT)) return namedSight(state, value);
  const other = state.scene?.other_cuts.find(({ id }) => otherCutValue(id) === value);
  const shots = part<ShotsPart>(state, other?.shots)?.shots;
  const shot = shots?.find(({ last }) => state.frame <= last);
  return shot ? namedSight(state, shot.camera_id) : null;
}

export function coverageTitle(scene: SceneView, value: string): string {
  const other = scene.other_cuts.find(({ id }) => otherCutValue(id) === value);
  return other ? `cut ${other.name}` : (cameraNamed({ scene }, value)?.name ?? "no camera any more");
}

/** The height that the row takes of a place for pictures, and where its pictures lie in it. */
export function coverageRow(
  scene: SceneView,
  count: number,
  width: number,
  height: number,
): { top: number; rects: FrameRect[] } {
  const aspect = frameAspect(scene);
  const across = (width - (MOST_BESIDE + 1) * MARGIN) / MOST_BESIDE;
  const tall = Math.min(across / aspect, height * GREATEST_SHARE - HEAD - MARGIN);
  const size = { width: Math.round(tall * aspect), height: Math.round(tall) };
  const top = height - size.height - HEAD - MARGIN;
  const left = Math.round((width - count * size.width - (count - 1) * MARGIN) / 2);
  const rects = Array.from({ length: count }, (_, at) => ({
    x: left + at * (size.width + MARGIN),
    y: top + HEAD,
    ...size,
  }));
  return { top, rects };
}
