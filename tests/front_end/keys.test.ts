/** Keys that are chosen: by which groups, and where their exact times come to. */
import { keysOfGroups, timeAfter, valueOf } from "@/state/chosenKeys";
import { asRecorded } from "@/state/recording";
import { setSession } from "@/state/session";

const keys = (times: string[]) => ({
  times,
  frames: Float64Array.from(times, valueOf),
  values: new Float64Array(times.length),
  shapes: new Uint8Array(times.length),
  handles: new Float64Array(times.length * 4),
  beyond: { before: "hold", after: "hold" } as const,
});

test("keys of a group are those of all its channels, once and in order", () => {
  const keyed = {
    x: keys(["1020", "1030"]),
    z: keys(["1010", "2041/2", "1030"]),
    focal_mm: keys(["1001"]),
  };
  const groups = keysOfGroups({ kind: "channels", keyed });
  expect([...groups.keys()]).toEqual(["place", "lens"]);
  expect(groups.get("place")!.map((key) => key.time)).toEqual([
    "1010",
    "1020",
    "2041/2",
    "1030",
  ]);
});

test.each([
  ["1010", { by: "5" }, "1015"],
  ["2021/2", { by: "-1" }, "2019/2"],
  ["1020", { stretch: "3/2", about: "1010" }, "1025"],
  ["1011", { stretch: "1/3", about: "1010" }, "3031/3"],
  ["1020", { stretch: "-1", about: "2055/2" }, "1035"],
])("%s, retimed by %o, is %s", (time, how, after) => {
  expect(timeAfter(time, how)).toBe(after);
});

test("moves of a camera carry the frame that they are made on, and are recorded only while one records", () => {
  setSession({ frame: 1012, recording: false });
  const move = {
    edit: "set camera values",
    camera_id: "a",
    values: { pan: 3 },
  } as const;
  expect(asRecorded(move)).toEqual({ ...move, frame: 1012, records: false });
  setSession({ recording: true });
  expect(asRecorded(move)).toEqual({ ...move, frame: 1012, records: true });
  const other = { edit: "cut to", frame: 3, camera_id: "a" } as const;
  expect(asRecorded(other)).toBe(other);
});
