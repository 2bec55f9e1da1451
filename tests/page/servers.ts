/** Servers of the run with the demo scenes, one for each worker: tests change scenes, and undo what they did. */
import { type ChildProcess, spawn } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import type { TestProject } from "vitest/node";

const ROOT = fileURLToPath(new URL("../..", import.meta.url));
export const WORKERS = 2;
const START_MS = 60_000;

declare module "vitest" {
  interface ProvidedContext {
    /** The sign-in address of each worker's server. */
    addresses: string[];
    /** Where each of them keeps what it has. */
    vars: string[];
  }
}

export default async function start(
  project: TestProject,
): Promise<() => Promise<void>> {
  // While tests are written: a server that runs already, by its address and where it keeps what it has.
  const running = process.env.EDDYFIELD_PAGE_SERVER?.split(" ");
  if (running) {
    project.provide("addresses", [running[0]!]);
    project.provide("vars", [running[1]!]);
    return async () => {};
  }
  const vars = Array.from({ length: WORKERS }, () =>
    mkdtempSync(join(tmpdir(), "eddyfield-page-")),
  );
  const servers = vars.map(serve);
  project.provide("addresses", await Promise.all(servers.map(ready)));
  project.provide("vars", vars);
  return async () => {
    await Promise.all(servers.map(ended));
    for (const folder of vars) rmSync(folder, { recursive: true, force: true });
  };
}

function serve(folder: string): ChildProcess {
  const env = {
    ...process.env,
    PYTHONPATH: join(ROOT, "src"),
    EDDYFIELD_VAR: folder,
  };
  return spawn(
    "python",
    ["-m", "eddyfield", "serve", "--demo", "--port", "0"],
    { env },
  );
}

function ready(server: ChildProcess): Promise<string> {
  let said = "";
  return new Promise((resolve, reject) => {
    const late = setTimeout(
      () => reject(new Error(`The server did not start:\n${said}`)),
      START_MS,
    );
    const hear = (text: Buffer) => {
      const found = /ready: open (\S+)/.exec((said += text.toString()));
      if (!found) return;
      clearTimeout(late);
      resolve(found[1]!);
    };
    server.stdout!.on("data", hear);
    server.stderr!.on("data", hear);
    server.on("exit", () => reject(new Error(said)));
  });
}

function ended(server: ChildProcess): Promise<void> {
  if (server.exitCode !== null) return Promise.resolve();
  return new Promise((resolve) => {
    server.on("exit", () => resolve());
    server.kill("SIGTERM");
  });
}
