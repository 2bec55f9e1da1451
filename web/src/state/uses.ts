/** One performance in several places: where else it is used, and the same change made there. */
import { useEffect, useState } from "react";
import { type Edit, otherUses, sendEdit } from "../api/client";
import type { UsesAnswer } from "../api/generated";
import { edit } from "./edits";
import { report } from "./shown";
import { session, useSession } from "./session";

export type Use = UsesAnswer["uses"][number];

/** Where else a thing's file is performed, asked for whenever that may have changed. */
export function useOtherUses(thingId: string | null, digest: string | null): Use[] {
  const sceneId = useSession((s) => s.scene?.id);
  const [found, setFound] = useState<{ digest: string | null; uses: Use[] }>({ digest: null, uses: [] });
  useEffect(() => {
    if (!sceneId || !thingId) return;
    let wanted = true;
    otherUses(sceneId, thingId)
      .then(({ uses }) => wanted && setFound({ digest, uses }))
      .catch(report);
    return () => {
      wanted = false;
    };
  }, [sceneId, thingId, digest]);
  return found.digest === digest ? found.uses : [];
}

/** The same change, made at another use: in this scene, or in the one that it is in. */
export async function changeAt(use: Use, change: Edit): Promise<void> {
  const own = "character_id" in change ? { character_id: use.thing_id } : { piece_id: use.thing_id };
  const there = { ...change, ...own } as Edit;
  if (use.scene_id === session().scene?.id) return edit(there);
  const request = {
    revision: use.revision,
    request_id: crypto.randomUUID(),
    remark: "",
    view: { judged: false },
  };
  try {
    await sendEdit(use.scene_id, { ...request, edit: there });
  } catch (error) {
    report(error);
  }
}

export const titleOfUse = (use: Use, sceneId: string | undefined) =>
  use.scene_id === sceneId ? use.thing_name : `${use.thing_name} in “${use.scene_name}”`;
