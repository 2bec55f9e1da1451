/** Subjects as the interface writes and names them. */
import type { CharacterView, Framing, RigPart, SceneView, Subject } from "../api/generated";
import { type Session, part, session } from "./session";

const PLAIN: Omit<Subject, "kind"> = {
  owner_id: null,
  joint: null,
  offset: [0, 0, 0],
  axes: "world",
  weight: 1,
  radius_m: 0,
};

export const jointSubject = (ownerId: string, joint: string): Subject => ({
  ...PLAIN,
  kind: "joint",
  owner_id: ownerId,
  joint,
});
export const bodySubject = (ownerId: string): Subject => ({ ...PLAIN, kind: "body", owner_id: ownerId });
export const objectSubject = (ownerId: string): Subject => ({ ...PLAIN, kind: "object", owner_id: ownerId });
export const pointSubject = (place: [number, number, number]): Subject => ({
  ...PLAIN,
  kind: "point",
  offset: place,
});

/** A framing lock on something, as one begins. */
export const framingOf = (subjects: Subject[]): Framing => ({
  subjects,
  x: 0.5,
  y: 0.4,
  slack: [],
  half_life_s: 0,
  size: null,
  follows: "motion",
  carried_over: null,
});

/** The middle of a face, which knows how large it is. */
export const faceSubject = (character: CharacterView): Subject => ({
  ...PLAIN,
  kind: "joint",
  owner_id: character.id,
  joint: character.face_joint,
  offset: character.face_centre as [number, number, number],
  axes: "joint",
  radius_m: character.face_height_m / 2,
});

export function subjectTitle(scene: SceneView, subject: Subject): string {
  if (subject.kind === "point") return `point ${subject.offset.map((v) => v.toFixed(2)).join(", ")}`;
  if (subject.kind === "object") return scene.pieces.find((p) => p.id === subject.owner_id)?.name ?? "object";
  const character = scene.characters.find((c) => c.id === subject.owner_id);
  const name = character?.name ?? scene.pieces.find((p) => p.id === subject.owner_id)?.name ?? "character";
  if (subject.kind === "body") return `${name}, whole`;
  const isFace = subject.axes === "joint" && subject.radius_m > 0 && subject.joint === character?.face_joint;
  return isFace ? `${name}, face` : `${name} ${subject.joint}`;
}

export interface SubjectChoice {
  value: string;
  label: string;
  subject: Subject;
}

/** Everything of the scene that can be gone by, in groups. */
export function subjectChoices(
  state: Pick<Session, "scene" | "parts">,
): { group: string; items: SubjectChoice[] }[] {
  const { scene } = state;
  if (!scene) return [];
  const groups = scene.characters.map((character) => {
    const joints = part<RigPart>(state, character.rig)?.joints ?? [];
    const items: SubjectChoice[] = [
      {
        value: `body ${character.id}`,
        label: `${character.name}, whole`,
        subject: bodySubject(character.id),
      },
      { value: `face ${character.id}`, label: `${character.name}, face`, subject: faceSubject(character) },
      ...[...new Set(joints)].map((joint) => ({
        value: `joint ${character.id} ${joint}`,
        label: `${character.name} ${joint}`,
        subject: jointSubject(character.id, joint),
      })),
    ];
    return { group: character.name, items };
  });
  const pieces = scene.pieces.flatMap((piece) => [
    { value: `object ${piece.id}`, label: piece.name, subject: objectSubject(piece.id) },
    ...[...new Set(part<RigPart>(state, piece.rig)?.joints ?? [])].map((joint) => ({
      value: `joint ${piece.id} ${joint}`,
      label: `${piece.name} ${joint}`,
      subject: jointSubject(piece.id, joint),
    })),
  ]);
  return pieces.length ? [...groups, { group: "Props and set", items: pieces }] : groups;
}

export function valueOf(subject: Subject | null | undefined): string | null {
  if (!subject) return null;
  if (subject.kind === "joint")
    return subject.axes === "joint" && subject.radius_m > 0
      ? `face ${subject.owner_id}`
      : `joint ${subject.owner_id} ${subject.joint}`;
  return subject.kind === "point" ? null : `${subject.kind} ${subject.owner_id}`;
}

/** What is chosen without asking: the chosen joint of the chosen character, else its face. */
export function likelySubject(): Subject | null {
  const { scene, characterId, joint } = session();
  const character = scene?.characters.find((c) => c.id === characterId) ?? scene?.characters[0];
  if (!character) return null;
  return joint ? jointSubject(character.id, joint) : faceSubject(character);
}
