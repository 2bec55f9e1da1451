/** Playing, new poses, timecode: what happens to the frame as time goes by. */
import type { Part } from "@/api/part";
import { goTo, stop, togglePlay } from "@/state/playback";
import { flipPoses, goToNewPose, newPoseFrames } from "@/state/poses";
import { fresh, playRange, session, setSession } from "@/state/session";
import { timecode } from "@/state/timecode";
import { sceneView, shownOnTwos } from "./scenery";

let now = 0;
let callbacks: FrameRequestCallback[] = [];

/** Let the clock go on, with a screen refresh every `refresh` milliseconds. */
function pass(milliseconds: number, refresh = 1000 / 60) {
  const end = now + milliseconds;
  while (now < end) {
    now = Math.min(end, now + refresh);
    const due = callbacks;
    callbacks = [];
    for (const callback of due) callback(now);
  }
}

beforeEach(() => {
  now = 10_000;
  callbacks = [];
  vi.stubGlobal("requestAnimationFrame", (callback: FrameRequestCallback) =>
    callbacks.push(callback),
  );
  vi.stubGlobal("cancelAnimationFrame", () => (callbacks = []));
  vi.spyOn(performance, "now").mockImplementation(() => now);
  const parts = new Map<string, Part>([["shown 1", shownOnTwos()]]);
  setSession({
    ...fresh,
    scene: sceneView(),
    parts,
    frame: 1001,
    loop: false,
    everyFrame: false,
  });
});

afterEach(() => {
  stop();
  vi.unstubAllGlobals();
  vi.restoreAllMocks();
});

describe("playing in real time", () => {
  test("sets each frame so that it is drawn when it is due", () => {
    togglePlay();
    pass(20);
    expect(session().frame).toBe(1001);
    pass(1000 / 24 - 18);
    expect(session().frame).toBe(1002);
    pass((1000 / 24) * 4);
    expect(session().frame).toBe(1006);
    expect(session().dropped).toBe(0);
  });

  test("drops frames rather than slowing, and counts them", () => {
    togglePlay();
    pass(250, 125);
    expect(session().frame).toBe(1007);
    expect(session().dropped).toBe(4);
  });

  test("stops on the last frame without a loop, and begins again from the first", () => {
    togglePlay();
    pass(2000);
    expect(session()).toMatchObject({ frame: 1012, playing: false });
    togglePlay();
    expect(session()).toMatchObject({ frame: 1001, playing: true, dropped: 0 });
  });

  test("goes round in a loop", () => {
    setSession({ loop: true });
    togglePlay();
    pass(520);
    expect(session().playing).toBe(true);
    expect(session().frame).toBeLessThan(1004);
  });

  test("keeps to its range", () => {
    setSession({ range: [1004, 1006], frame: 1010 });
    togglePlay();
    expect(session().frame).toBe(1004);
    pass(1000);
    expect(session()).toMatchObject({ frame: 1006, playing: false });
  });
});

test("every frame is shown, one after the other, however late", () => {
  setSession({ everyFrame: true });
  togglePlay();
  const seen: number[] = [];
  for (let n = 0; n < 12; n++) {
    pass(200, 200);
    seen.push(session().frame);
  }
  expect(seen).toEqual([
    1002, 1003, 1004, 1005, 1006, 1007, 1008, 1009, 1010, 1011, 1012, 1012,
  ]);
  expect(session().dropped).toBe(0);
});

test("a frame that is gone to lies within the scene", () => {
  goTo(5000);
  expect(session().frame).toBe(1012);
  goTo(-1);
  expect(session().frame).toBe(1001);
  goTo(1004.6);
  expect(session().frame).toBe(1005);
});

test("the range never leaves the scene", () => {
  expect(playRange({ scene: sceneView(), range: [900, 1005] })).toEqual([
    1001, 1005,
  ]);
  expect(playRange({ scene: sceneView(), range: null })).toEqual([1001, 1012]);
  expect(playRange({ scene: null, range: null })).toEqual([0, 0]);
});

describe("new poses", () => {
  test("are the frames that start an exposure", () => {
    expect(newPoseFrames(shownOnTwos().exposure_start, 1001)).toEqual([
      1001, 1003, 1005, 1007, 1009, 1011,
    ]);
  });

  test("follow one another by key, from held frames too", () => {
    goTo(1004);
    goToNewPose(1);
    expect(session().frame).toBe(1005);
    goToNewPose(-1);
    expect(session().frame).toBe(1003);
    goTo(1001);
    goToNewPose(-1);
    expect(session().frame).toBe(1001);
  });

  test("flip between the last two", () => {
    goTo(1005);
    goToNewPose(1);
    flipPoses();
    expect(session().frame).toBe(1005);
    flipPoses();
    expect(session().frame).toBe(1007);
  });
});

test.each([
  [28, 24, 0, "00:00:01:04"],
  [24 * 3600 + 23, 24, 0, "01:00:00:23"],
  [30, 30, 0, "00:00:01:00"],
  [1799, 30, 2, "00:00:59;29"],
  [1800, 30, 2, "00:01:00;02"],
  [17981, 30, 2, "00:09:59;29"],
  [17982, 30, 2, "00:10:00;00"],
  [3600, 60, 4, "00:01:00;04"],
  [-1, 24, 0, "23:59:59:23"],
])(
  "time code of %d frames, %d a second, %d left out",
  (count, numbers, dropped, expected) => {
    expect(timecode(count, numbers, dropped)).toBe(expected);
  },
);
