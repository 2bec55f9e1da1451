/** On how many frames poses are held, as the trade says it. */
export const STEPS: [number, string][] = [
  [1, "ones"],
  [2, "twos"],
  [3, "threes"],
  [4, "fours"],
  [5, "fives"],
  [6, "sixes"],
  [7, "sevens"],
  [8, "eights"],
];
