/** How the page reaches its server, which is one for each worker. */
import { readFileSync } from "node:fs";
import http from "node:http";
import { inject } from "vitest";

/** Each worker has a server of its own. */
const OF_WORKER =
  (Number(process.env.VITEST_POOL_ID) - 1) % inject("addresses").length;
export const address = inject("addresses")[OF_WORKER]!;
export const base = address.split("/sign-in")[0]!;

let cookie = "";
/** While `without` is set, requests do not reach the server; of those that do, `underway` are not answered yet; `edit` is what was
 * asked for with the last edit. */
export const network = { without: false, underway: 0, edit: "" };

/** As the page asks: with its cookie, from its origin. */
export async function ask(
  path: string,
  init: RequestInit = {},
): Promise<Response> {
  if (network.without) throw new TypeError("no network");
  network.underway += 1;
  if (path.endsWith("/edits")) network.edit = String(init.body);
  try {
    return await asked(path, init);
  } finally {
    network.underway -= 1;
  }
}

function asked(path: string, init: RequestInit): Promise<Response> {
  const headers = {
    ...(init.headers as Record<string, string>),
    cookie,
    origin: base,
  };
  return new Promise((resolve, reject) => {
    const request = http.request(
      base + path,
      { method: init.method ?? "GET", headers },
      (answer) => {
        const set = answer.headers["set-cookie"];
        if (set) cookie = set.map((text) => text.split(";")[0]).join("; ");
        const chunks: Uint8Array[] = [];
        answer.on("data", (chunk: Uint8Array) => chunks.push(chunk));
        answer.on("end", () => {
          const body =
            answer.statusCode === 204
              ? null
              : (Buffer.concat(chunks) as unknown as BodyInit);
          resolve(
            new Response(body, {
              status: answer.statusCode,
              headers: answer.headers as HeadersInit,
            }),
          );
        });
      },
    );
    request.on("error", reject);
    void bytesOf(init.body).then((bytes) => request.end(bytes));
    init.signal?.addEventListener("abort", () =>
      request.destroy(new DOMException("aborted", "AbortError")),
    );
  });
}

async function bytesOf(
  body: BodyInit | null | undefined,
): Promise<string | Uint8Array | undefined> {
  if (body instanceof Blob) return new Uint8Array(await body.arrayBuffer());
  return (body as string | undefined) ?? undefined;
}

export const postJson = (path: string, body: unknown) =>
  ask(path, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
  });

/** Whether the page has signed in already. */
export const signedIn = () => cookie !== "";

/** Sends a form as the page's own requests go. */
export class Upload {
  readonly upload = {};
  status = 0;
  responseText = "";
  onload = () => {};
  onerror = () => {};
  private to: [method: string, path: string] = ["POST", ""];

  open(method: string, path: string): void {
    this.to = [method, path];
  }
  send(form: FormData): void {
    void this.sent(form).then(
      () => this.onload(),
      () => this.onerror(),
    );
  }
  private async sent(form: FormData): Promise<void> {
    const [method, path] = this.to;
    const packed = new Response(form);
    const headers = { "Content-Type": packed.headers.get("Content-Type")! };
    const answer = await ask(path, {
      method,
      headers,
      body: new Blob([await packed.arrayBuffer()]),
    });
    this.status = answer.status;
    this.responseText = await answer.text();
  }
}

/** What other windows do is not followed. */
export class Unheard {
  addEventListener() {}
  close() {}
}

/** A file that the demo was made from. */
export const demoFile = (name: string): Uint8Array =>
  readFileSync(`${inject("vars")[OF_WORKER]}/demo/${name}`);
