/** What an edit in the hand would do: shown while the same is looked at, and dropped once something else is. */
import { cancelPreview, endPreview, preview } from "@/state/previews";
import { session, setSession, useSession } from "@/state/session";
import { refreshView } from "@/state/shown";
import { CHARACTER, characterView } from "./scenery";
import { ok, server, settled } from "./server";

const named = (name: string) => ({ edit: "rename scene", name }) as const;
const previews = () => server.asked.filter((a) => a.path.endsWith("/preview"));

test("an answer is shown as long as the same is looked at", async () => {
  server.answers = () => ok(7, {}, "in the hand");
  preview(named("One"));
  await settled();
  expect(session().scene!.name).toBe("in the hand");
  expect(previews()).toHaveLength(1);
});

test("one that comes when something else is looked at is asked for again", async () => {
  server.answers = () => {
    if (previews().length === 1)
      setSession({ matching: { first: 3, over: false } });
    return ok(7, {}, `answer ${previews().length}`);
  };
  preview(named("One"));
  await settled();
  expect(previews()).toHaveLength(2);
  expect(session().scene!.name).toBe("answer 2");
});

test("what is in the hand is shown over what is stored, whichever comes last", async () => {
  server.answers = ({ path }) =>
    ok(7, {}, path.endsWith("/preview") ? "in the hand" : "stored");
  preview(named("One"));
  await settled();
  const seen: (string | undefined)[] = [];
  const unsubscribe = useSession.subscribe((now) => seen.push(now.scene?.name));
  await refreshView();
  await settled();
  unsubscribe();
  expect(previews()).toHaveLength(2);
  expect(new Set(seen), "at no moment").toEqual(new Set(["in the hand"]));
  endPreview();
  await refreshView();
  await settled();
  expect(session().scene!.name).toBe("stored");
});

test("another hand is shown although an answer to the one before is on its way", async () => {
  server.answers = () => ok(7, {}, `answer ${previews().length}`);
  preview(named("One"));
  endPreview();
  preview(named("Two"));
  await settled();
  expect(session().scene!.name).toBe("answer 2");
});

test("a version that was looked at is shown again when nothing comes of what was in the hand", async () => {
  server.answers = () => ok(7);
  const look = {
    edit: "bring next version",
    character_id: CHARACTER,
    source: characterView().source,
    name: "first",
  } as const;
  preview(look);
  preview(named("One"));
  expect(session().inHand).toEqual(named("One"));
  cancelPreview();
  expect(session().inHand).toEqual(look);
  preview(named("Two"));
  endPreview(); // stored
  expect(session().inHand).toBeNull();
  preview(look);
  cancelPreview();
  expect(session().inHand, "it is looked at no more").toBeNull();
  await settled();
});

test("where it cannot be shown any more, the scene is shown as it is stored", async () => {
  server.answers = () => ok(7, {}, "in the hand");
  preview(named("One"));
  await settled();
  server.answers = ({ path }) =>
    path.endsWith("/preview")
      ? { status: 422, body: { message: "Oda is gone.", remedy: "" } }
      : ok(8, {}, "stored");
  await refreshView();
  await settled();
  expect(session().inHand).toBeNull();
  expect(session().scene!.name).toBe("stored");
});
