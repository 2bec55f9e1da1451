/** A version of a performance that is looked at, as if it were performed: through any camera, until something else is in the hand. */
import type { CharacterView } from "../api/generated";
import { isSource } from "./beside";
import { cancelPreview, preview } from "./previews";
import type { Session } from "./session";

type Version = CharacterView["versions"][number];

export const takenUp = ({ id }: CharacterView, { source, name }: Version) => ({
  edit: "bring next version" as const,
  character_id: id,
  source,
  name,
});

/** Whose it is; null while none is looked at. */
export const lookedAtCharacter = ({ inHand, scene }: Session): CharacterView | null =>
  (inHand?.edit === "bring next version" && scene?.characters.find(({ id }) => id === inHand.character_id)) ||
  null;

/** Null while none is looked at. */
export function lookedAtVersion(state: Session): Version | null {
  const { inHand } = state;
  if (inHand?.edit !== "bring next version") return null;
  return lookedAtCharacter(state)?.versions.find(({ source }) => isSource(source, inHand.source)) ?? null;
}

/** Null goes back to what is performed. */
export function lookAtVersion(character: CharacterView, version: Version | null): void {
  if (version) preview(takenUp(character, version));
  else cancelPreview();
}
