/** A server made of answers, and the scene as opened from it; every test that brings it in begins anew. */
import { encode } from "@msgpack/msgpack";
import { edit, openScene } from "@/state/edits";
import { fresh, setSession } from "@/state/session";
import { SCENE, sceneAnswer } from "./scenery";

export interface Asked {
  path: string;
  body: {
    revision: number;
    request_id: string;
    edit: { edit: string; name: string };
    view: {
      known_parts: string[];
      cameras_of_revision: number | null;
      camera_id: string | null;
      judged?: boolean;
    };
  };
}

export type Answer = { status: number; body: unknown } | "unreachable";

export const server: { asked: Asked[]; answers: (request: Asked) => Answer } = {
  asked: [],
  answers: () => ok(7),
};

export const ok = (
  revision: number,
  parts: Record<string, unknown> = {},
  name?: string,
): Answer => ({
  status: 200,
  body: sceneAnswer(
    { revision, undo: "rename scene", ...(name ? { name } : {}) },
    parts,
  ),
});
/** What is kept in local storage of the edits of this scene, whichever window's it is. */
export const kept = () =>
  Object.keys(localStorage)
    .filter((name) => name.startsWith(`eddyfield.unsent.${SCENE}`))
    .map((name) => JSON.parse(localStorage.getItem(name)!))[0];
export const rename = (name: string) => edit({ edit: "rename scene", name });
export const settled = () => vi.advanceTimersByTimeAsync(10);

beforeEach(async () => {
  vi.useFakeTimers();
  localStorage.clear();
  server.asked = [];
  server.answers = () => ok(7);
  vi.stubGlobal("fetch", async (path: string, init: RequestInit) => {
    const request = {
      path,
      body: JSON.parse(String(init.body)) as Asked["body"],
    };
    server.asked.push(request);
    const answer = server.answers(request);
    if (answer === "unreachable") throw new TypeError("no network");
    const packed =
      answer.status === 200 ? encode(answer.body) : JSON.stringify(answer.body);
    return new Response(packed as BodyInit, { status: answer.status });
  });
  setSession({ ...fresh, parts: new Map() });
  await openScene(SCENE);
  await settled();
  server.asked = [];
});

afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
