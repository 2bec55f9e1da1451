/** What of a sound is heard from a frame on, and the clock that playing goes by. */
import { clockMs, goByClockOf } from "@/state/clock";
import { portion } from "@/state/hearing";

const view = (change = {}) => ({
  sound: {
    id: "s",
    name: "Line",
    digest: "d",
    start: 1001,
    first_s: 0.5,
    last_s: null,
    gain_db: 0,
    muted: false,
    nested: null,
    ...change,
  },
  seconds: 4,
  waveform: "w",
});

test.each([
  [1001, {}, { after: 0, from: 0.5, to: 4 }],
  [1025, {}, { after: 0, from: 1.5, to: 4 }],
  [989, {}, { after: 0.5, from: 0.5, to: 4 }],
  [1025, { last_s: 1.25 }, null],
  [1001, { last_s: 9 }, { after: 0, from: 0.5, to: 4 }],
])("from frame %i on with %o", (frame, change, heard) => {
  expect(portion(view(change), frame, 24)).toEqual(heard);
});

test("time goes on without a jump, and then as fast as what is heard", () => {
  const ear = { state: "running", currentTime: 5 };
  const before = clockMs();
  goByClockOf(ear as unknown as AudioContext);
  const changed = clockMs();
  expect(changed - before).toBeGreaterThanOrEqual(0);
  expect(changed - before).toBeLessThan(50);
  ear.currentTime += 600;
  expect(clockMs() - changed).toBeCloseTo(600_000, 6);
  ear.state = "suspended";
  expect(Math.abs(clockMs() - performance.now())).toBeLessThan(50);
  goByClockOf(null);
});
