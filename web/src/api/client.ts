/** Talks to the server. Every refusal becomes a `RefusedError` in the user's words. */
import type {
  Access,
  Attention,
  CandidatesAnswer,
  ChangesTold,
  CutComparison,
  DeskAnswer,
  EditRequest,
  ExportNotes,
  Inspection,
  LinesFound,
  LimitsRequest,
  LimitsTold,
  MakeScene,
  MakeSequence,
  MakeStandIn,
  NextVersion,
  NextVersionView,
  PreviewRequest,
  RateChangeView,
  Refusal,
  ReplayRequest,
  SceneAnswer,
  SceneMade,
  SequenceEditRequest,
  SequenceReadings,
  SequenceView,
  SetName,
  SinceRequest,
  SpacingChartView,
  SpacingRequest,
  UsesAnswer,
  View,
  WhyRequest,
  WhyView,
} from "./generated";
import { unpack } from "./packing";

export type Edit = EditRequest["edit"];

export class RefusedError extends Error {
  constructor(
    readonly status: number,
    readonly refusal: Refusal,
  ) {
    super(`${refusal.message} ${refusal.remedy}`.trim());
  }
}

/** The server could not be reached, or the database behind it: worth trying again. */
export class UnreachableError extends Error {}

async function ask(path: string, method: string, body?: BodyInit, type?: string): Promise<Response> {
  let answer: Response;
  try {
    answer = await fetch(path, { method, body, headers: type ? { "Content-Type": type } : undefined });
  } catch {
    throw new UnreachableError("The server does not answer.");
  }
  if (answer.ok) return answer;
  if (answer.status === 503) throw new UnreachableError("The database does not answer.");
  throw new RefusedError(answer.status, await refusalOf(answer));
}

async function refusalOf(answer: Response): Promise<Refusal> {
  try {
    return (await answer.json()) as Refusal;
  } catch {
    return {
      message: `The server answered ${answer.status}.`,
      remedy: "Reload the page.",
      revision: null,
      edits_since: [],
      asks: false,
    };
  }
}

async function askJson<T>(path: string, method = "GET", body?: unknown): Promise<T> {
  const answer = await ask(
    path,
    method,
    body === undefined ? undefined : JSON.stringify(body),
    "application/json",
  );
  return (await answer.json()) as T;
}

async function askScene(path: string, body: unknown): Promise<SceneAnswer> {
  const answer = await ask(path, "POST", JSON.stringify(body), "application/json");
  return unpack(await answer.arrayBuffer()) as SceneAnswer;
}

export const listScenes = () => askJson<DeskAnswer>("/api/scenes");
export const makeScene = (request: MakeScene) => askJson<SceneMade>("/api/scenes", "POST", request);
export const deleteScene = (id: string) => ask(`/api/scenes/${id}`, "DELETE");
export const restoreScene = (id: string) => ask(`/api/scenes/${id}/restore`, "POST");
export const saveThumbnail = (id: string, png: Blob) =>
  ask(`/api/scenes/${id}/thumbnail`, "PUT", png, "image/png");
export const exportNotes = (id: string) => askJson<ExportNotes>(`/api/scenes/${id}/exports/notes`);

export const makeStandIn = (request: MakeStandIn) => askJson<Inspection>("/api/stand-ins", "POST", request);
export const makeSequence = (request: MakeSequence) =>
  askJson<SequenceView>("/api/sequences", "POST", request);
export const getSequence = (id: string) => askJson<SequenceView>(`/api/sequences/${id}`);
export const editSequence = (id: string, request: SequenceEditRequest) =>
  askJson<SequenceView>(`/api/sequences/${id}/edits`, "POST", request);
export const replaySequence = (id: string, way: "undo" | "redo", revision: number) =>
  askJson<SequenceView>(`/api/sequences/${id}/${way}`, "POST", { revision });
export const deleteSequence = (id: string) => ask(`/api/sequences/${id}`, "DELETE");
export const restoreSequence = (id: string) => ask(`/api/sequences/${id}/restore`, "POST");
export const readSequence = (id: string) => askJson<SequenceReadings>(`/api/sequences/${id}/readings`);

export const otherUses = (id: string, thingId: string) =>
  askJson<UsesAnswer>(`/api/scenes/${id}/things/${thingId}/uses`);
export const costOfRate = (id: string, rate: string, keeps: string) =>
  askJson<RateChangeView>(
    `/api/scenes/${id}/rate-change?rate=${encodeURIComponent(rate)}&keeps=${encodeURIComponent(keeps)}`,
  );
export const compareCuts = (id: string, cutId: string) =>
  askJson<CutComparison>(`/api/scenes/${id}/other-cuts/${cutId}/comparison`);

export const nextVersion = (id: string, request: NextVersion) =>
  askJson<NextVersionView>(`/api/scenes/${id}/next-version`, "POST", request);

export const tryCandidates = async (id: string, character_id: string, view: View) => {
  const body = JSON.stringify({ character_id, view });
  const answer = await ask(`/api/scenes/${id}/candidates`, "POST", body, "application/json");
  return unpack(await answer.arrayBuffer()) as CandidatesAnswer;
};
export const whyTold = async (id: string, told: WhyRequest["told"]) =>
  (await askJson<WhyView>(`/api/scenes/${id}/why`, "POST", { told })).why;
export const effectOf = async (id: string, change: Edit) =>
  (await askJson<ChangesTold>(`/api/scenes/${id}/effect`, "POST", { edit: change })).changes;
export const changedSince = async (id: string, since: SinceRequest) =>
  (await askJson<ChangesTold>(`/api/scenes/${id}/since`, "POST", since)).changes;
export const productionLimits = () => askJson<LimitsTold>("/api/limits");
export const setProductionLimits = (request: LimitsRequest) =>
  askJson<LimitsTold>("/api/limits", "PUT", request);
export const chartSpacing = (id: string, request: SpacingRequest) =>
  askJson<SpacingChartView>(`/api/scenes/${id}/spacing`, "POST", request);
export const attentionOf = (id: string) => askJson<Attention>(`/api/scenes/${id}/attention`);
export const viewScene = (id: string, view: View) => askScene(`/api/scenes/${id}/view`, { view });
export const replay = (id: string, way: "undo" | "redo", request: ReplayRequest) =>
  askScene(`/api/scenes/${id}/${way}`, request);
export const access = () => askJson<Access>("/api/access");
export const setName = (request: SetName) =>
  ask("/api/access", "PUT", JSON.stringify(request), "application/json");
export const signOut = () => ask("/api/sign-out", "POST");
export const renewAddress = async () => (await ask("/api/renew-address", "POST")).text();
export const previewEdit = (id: string, request: PreviewRequest) =>
  askScene(`/api/scenes/${id}/preview`, request);
export const sendEdit = (id: string, request: EditRequest) => askScene(`/api/scenes/${id}/edits`, request);

export const fetchSound = async (digest: string) => (await ask(`/api/sounds/${digest}`, "GET")).arrayBuffer();
export const findLines = (scene: string, sound: string, thresholdDb: number, silenceS: number) =>
  askJson<LinesFound>(
    `/api/scenes/${scene}/sounds/${sound}/lines?threshold_db=${thresholdDb}&silence_s=${silenceS}`,
  );

/** Upload files with progress from 0 to 1; `cancel` ends it. */
export function upload<Found = Inspection>(
  files: File[],
  onProgress: (share: number) => void,
  path = "/api/uploads",
): { done: Promise<Found>; cancel: () => void } {
  const request = new XMLHttpRequest();
  const form = new FormData();
  for (const file of files) form.append("files", file, file.name);
  const done = new Promise<Found>((resolve, reject) => {
    request.upload.onprogress = (event) => onProgress(event.total ? event.loaded / event.total : 0);
    request.onerror = () => reject(new UnreachableError("The server does not answer."));
    request.onabort = () => reject(new DOMException("The upload was cancelled.", "AbortError"));
    request.onload = () => {
      if (request.status === 200) resolve(JSON.parse(request.responseText) as Found);
      else {
        let refusal: Refusal = {
          message: `The server answered ${request.status}.`,
          remedy: "",
          revision: null,
          edits_since: [],
          asks: false,
        };
        try {
          refusal = JSON.parse(request.responseText) as Refusal;
        } catch {
          // the plain status has to do
        }
        reject(new RefusedError(request.status, refusal));
      }
    };
  });
  request.open("POST", path);
  request.send(form);
  return { done, cancel: () => request.abort() };
}
