/** What the workspace is opened on. */
export interface Place {
  kind: "scenes" | "sequences";
  id: string;
}
