/** Ways to step and ride that were tried, as they are looked at. */
import type { CandidatesAnswer, SceneView } from "../api/generated";
import type { Part } from "../api/part";

/** One way: what it leaves, and the scene with it. */
export interface Way extends Omit<CandidatesAnswer["candidates"][number], "answer"> {
  scene: SceneView;
  parts: Map<string, Part>;
}

export interface Trying {
  characterId: string;
  /** The revision of the scene that they were tried on. */
  revision: number;
  /** What is played again and again. */
  first: number;
  last: number;
  ways: Way[];
  tried: number;
  refused: string[];
}
