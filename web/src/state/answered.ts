/** A scene out of the server's answer and the parts that are held, and the names of the parts it needs. */
import type { CameraView, SceneAnswer, SceneView, ShotsPart } from "../api/generated";
import type { Part } from "../api/part";
import { session } from "./session";

/** The scene with its cameras, which are sent as parts; until it is judged anew, what is known of it stays. */
export function assembled(answer: SceneAnswer, parts: Map<string, Part>): SceneView {
  const { scene } = answer;
  const cameras = scene.cameras.map((name) => parts.get(name) as CameraView);
  const cut = (parts.get(scene.shots) as ShotsPart).shots;
  const now = session().scene;
  const before = now?.id === scene.id ? now : null;
  const known = (name: string, was: string | undefined) => (parts.has(name) ? name : (was ?? name));
  const characters = scene.characters.map((character) => {
    const was = before?.characters.find((c) => c.id === character.id);
    return {
      ...character,
      strobing: known(character.strobing, was?.strobing),
      changed: character.changed && known(character.changed, was?.changed ?? undefined),
    };
  });
  const arc_judgement = scene.arc_judgement && known(scene.arc_judgement, before?.arc_judgement ?? undefined);
  const speed = scene.speed && known(scene.speed, before?.speed ?? undefined);
  return {
    ...scene,
    speed,
    cameras,
    cut,
    characters,
    arc_judgement,
    readings: scene.readings ?? before?.readings ?? [],
    judged: scene.readings !== null || (before?.judged ?? false),
  };
}

/** Names of all parts that a scene is shown with. */
export function namesIn(scene: SceneView, cameraViews: string[]): string[] {
  const { cameras, characters, pieces, arc, arc_judgement, subjects, speed, match, blend, sounds, beside } =
    scene;
  return [
    ...cameraViews,
    scene.shots,
    ...cameras.flatMap((c) => [c.path, c.channels, ...c.views.map((v) => v.path)]),
    ...characters.flatMap((c) => [
      c.rig,
      c.motion,
      c.placing,
      c.time,
      c.shown,
      c.strobing,
      ...(c.changed ? [c.changed] : []),
    ]),
    ...pieces.flatMap((p) => [p.rig, p.placed, p.placing, p.time, ...(p.motion ? [p.motion] : [])]),
    ...(beside ? [beside.rig, beside.motion, beside.shown] : []),
    ...(beside?.arc ? [beside.arc] : []),
    ...(arc ? [arc] : []),
    ...scene.also.map((one) => one.arc),
    ...(arc_judgement ? [arc_judgement] : []),
    ...(subjects ? [subjects] : []),
    ...(blend ? [blend] : []),
    ...(speed ? [speed] : []),
    ...(match ? [match] : []),
    ...scene.other_cuts.map((cut) => cut.shots),
    ...sounds.map((sound) => sound.waveform),
  ];
}
