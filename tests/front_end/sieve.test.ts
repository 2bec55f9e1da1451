/** Which readings are listed. */
import type { ReadingView } from "@/api/generated";
import { sieved } from "@/readings/Sieve";

const reading = (
  character_id: string | null,
  camera_id: string | null,
  cause_title: string,
) => ({ character_id, camera_id, cause_title }) as ReadingView;

const ARC = reading("oda", null, "arc");
const FRAMING = reading("quill", "bank", "framing");
const JOLT = reading(null, "bank", "camera move");
const ALL = [ARC, FRAMING, JOLT];

test("those of somebody, of a camera, or of one kind of trouble, in their order", () => {
  expect(sieved(ALL, null)).toBe(ALL);
  expect(sieved(ALL, "who oda")).toEqual([ARC]);
  expect(sieved(ALL, "who bank")).toEqual([FRAMING, JOLT]);
  expect(sieved(ALL, "cause camera move")).toEqual([JOLT]);
  expect(sieved(ALL, "who nobody")).toEqual([]);
});
