/** Sequences: played through, left, judged as a whole, and what is said of one that is not there. */
import { session } from "@/state/session";
import {
  ANOTHER,
  all,
  ask,
  button,
  byId,
  differs,
  frameNow,
  goTo,
  has,
  hold,
  keys,
  letGo,
  load,
  picture,
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

test("playing goes on into the next scene and the time code runs on", async () => {
  await load(`/sequences/${await sequence()}`);
  await byId("sequence-strip");
  await wait(() => title() === "Crossing, cut", "its first scene");
  await byId("sheet-rows");
  await goTo(1090);
  await press(button("loop"));
  letGo();
  keys(" ");
  await wait(() => title() === "Landing", "the next scene");
  await wait(
    () => frameNow() === 2072 && has("[aria-label=Play]"),
    "to its end, and no further",
  );
  await goTo(2013);
  expect(text(".sequence-strip .mono"), "96 frames and 12").toBe("00:00:04:12");
  expect(said(all(".caption .mono")[1]), "the scene's own beside it").toBe(
    "00:00:00:12",
  );
  const landing = await picture();
  await press(all(".sequence-strip .block")[0]!);
  await wait(() => title() === "Crossing, cut", "a click goes there");
  await wait(async () => (await differs(landing)) > ANOTHER, "and shows it");
  hold("Alt", "PageDown");
  await wait(() => title() === "Landing", "and a key");
  await press(button("by itself"));
  await wait(() => location.pathname.startsWith("/scenes/"), "the scene alone");
  await byId("sheet-rows");
  expect(has("[data-testid=sequence-strip]")).toBe(false);
});

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
