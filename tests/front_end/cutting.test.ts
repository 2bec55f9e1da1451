/** Going from shot to shot, and the cut as it is seen while it is being made. */
import { goToShot, shotAt, takeLive } from "@/state/cutting";
import { fresh, session, setSession } from "@/state/session";
import { cameraView, sceneView, shot } from "./scenery";

const [A, B, C] = ["a", "b", "c"];
const cameras = [A, B, C].map((id) =>
  cameraView({ id, name: id.toUpperCase() }),
);

function open(frame: number): void {
  const cut = [shot(1001, 1004, A), shot(1005, 1008, B), shot(1009, 1012, A)];
  setSession({ ...fresh, scene: sceneView({ cameras, cut }), frame });
}

test("shots are gone through in both directions, round at the ends", () => {
  open(1006);
  const went = [-1, -1, -1, 1, 1, 1].map((by) => {
    goToShot(by as 1 | -1);
    return session().frame;
  });
  expect(went).toEqual([1005, 1001, 1009, 1001, 1005, 1009]);
});

test("a frame has the shot that it lies in", () => {
  open(1001);
  expect(
    [1001, 1004, 1005, 1012].map(
      (frame) => shotAt(session().scene, frame)?.camera_id,
    ),
  ).toEqual([A, A, B, A]);
});

test("what is cut live is shown at once, and hides what was cut before from there on", () => {
  open(1003);
  takeLive(3);
  setSession({ frame: 1007 });
  takeLive(3);
  setSession({ frame: 1010 });
  takeLive(2);
  const spans = session().scene!.cut.map(({ first, last, camera_id }) => [
    first,
    last,
    camera_id,
  ]);
  expect(spans).toEqual([
    [1001, 1002, A],
    [1003, 1009, C],
    [1010, 1012, B],
  ]);
  takeLive(9);
  expect(session().scene!.cut).toHaveLength(3);
});
