/** Scenes that play inside this one: which there are, and how one comes in. */
import { useEffect, useState } from "react";
import { listScenes } from "../api/client";
import { chooseThing } from "./contents";
import { edit } from "./edits";
import { report } from "./shown";
import { notify, session } from "./session";

export interface OtherScene {
  id: string;
  name: string;
}

/** The scenes beside this one, asked for while somebody `wants` to choose among them. */
export function useOtherScenes(wants: boolean): OtherScene[] {
  const [found, setFound] = useState<OtherScene[]>([]);
  useEffect(() => {
    if (!wants) return;
    let asked = true;
    listScenes()
      .then(({ scenes }) => asked && setFound(scenes.filter(({ id }) => id !== session().scene?.id)))
      .catch(report);
    return () => {
      asked = false;
    };
  }, [wants]);
  return found;
}

export function bringInScene({ id, name }: OtherScene): void {
  const block_id = crypto.randomUUID();
  const start = session().frame;
  edit({ edit: "bring in scene", block_id, scene_id: id, start });
  chooseThing(block_id);
  notify(
    `“${name}” plays inside from ${start} on. Drag its mark to where it is to stand; Ctrl Z takes it out.`,
  );
}
