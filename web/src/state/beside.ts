/** Another version of a performance beside the one that is performed: its figure as a ghost, its arc; or the two change places. */
import type { CharacterView } from "../api/generated";
import { refreshView } from "./shown";
import { chosenCharacter, notify, session, setSession } from "./session";

type Version = CharacterView["versions"][number];

/** The same way of reading the same file. */
export const isSource = (a: Version["source"], b: Version["source"]) =>
  (["digest", "format", "scale", "rig", "animation"] as const).every((name) => a[name] === b[name]);

/** Show a version beside the one that is performed; null shows none. */
export function showBeside(character: CharacterView, version: Version | null): void {
  const { source, name } = version ?? {};
  setSession({
    beside: source ? { characterId: character.id, source, name: name! } : null,
    flipped: false,
    characterId: character.id,
  });
  void refreshView();
}

/** The version before the one that the chosen character performs, beside it; or none again. */
export function toggleBeside(): void {
  const state = session();
  const character = chosenCharacter(state);
  if (!character) return;
  if (state.beside) return showBeside(character, null);
  const { compared_with: other, name } = character;
  if (other) showBeside(character, other);
  else notify(`${name} has one version so far. Drop its next file on it to compare the two.`);
}

/** Which of the two is solid, and which the ghost. */
export function flip(): void {
  if (session().beside) setSession({ flipped: !session().flipped });
  else toggleBeside();
}
