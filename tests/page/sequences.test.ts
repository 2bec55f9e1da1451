/** Sequences: left while they play, judged as a whole, and what is said of one that is not there. */
import { session } from "@/state/session";
import {
  all,
  ask,
  button,
  byId,
  frameNow,
  has,
  load,
  press,
  said,
  text,
  title,
  wait,
} from "./app";

async function sequence(): Promise<string> {
  const { sequences } = (await (await ask("/api/scenes")).json()) as {
    sequences: { id: string }[];
  };
  return sequences[0]!.id;
}

test("a scene is left while it plays", async () => {
  await press(button("Play"));
  await wait(() => frameNow() > 1003, "frames going by");
  await press(button("Eddyfield"));
  await wait(() => has(".desk"), "the Desk");
  expect(session().playing, "nothing of it goes on").toBe(false);
});

test("all scenes are judged in one list that leads to each", async () => {
  await load(`/sequences/${await sequence()}`);
  await byId("sequence-strip");
  await wait(() => title() === "Crossing, cut", "its first scene");
  await press(button("whole sequence"));
  const rows = () => all("[data-testid=sequence-readings] li");
  await wait(() => rows().length > 5, "readings of all scenes");
  expect(rows().some((row) => said(row).includes("Crossing, cut"))).toBe(true);
  const ofLanding = rows().find((row) => said(row).includes("Landing"))!;
  await press(ofLanding.querySelector(".what")!);
  await wait(() => title() === "Landing", "its scene");
  expect(frameNow()).toBeGreaterThanOrEqual(2001);
});

test("a sequence that is not there says so", async () => {
  await load("/sequences/00000000-0000-4000-8000-000000000000");
  await wait(() => text("main").includes("no such sequence"), "why");
});
