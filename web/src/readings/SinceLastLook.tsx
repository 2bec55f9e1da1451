/** What became better and worse since somebody last looked through the readings, and that this is such a look. */
import { Button } from "@mantine/core";
import { useEffect, useState } from "react";
import { changedSince } from "../api/client";
import type { ChangeView, ReadingView } from "../api/generated";
import { type Look, lastLook, lookedAt } from "../state/lastLook";
import { useSession } from "../state/session";
import { report } from "../state/shown";
import { Changes } from "../widgets/Changes";

export function SinceLastLook({ readings, close }: { readings: ReadingView[]; close: () => void }) {
  const id = useSession((s) => s.scene!.id);
  const revision = useSession((s) => s.scene!.revision);
  const [look] = useState<Look | null>(() => lastLook(id));
  const [changes, setChanges] = useState<ChangeView[] | null>(null);
  useEffect(() => {
    let wanted = true;
    if (look)
      changedSince(id, look.seen)
        .then((found) => wanted && setChanges(found))
        .catch(report);
    return () => {
      wanted = false;
    };
  }, [id, look, revision]);
  return (
    <div className="since" data-testid="since">
      <p className="soft">
        {look
          ? `Since the look of ${new Date(look.at).toLocaleString()}, at revision ${look.revision}.`
          : "Nobody has looked through the readings here yet: what is listed now is what later ones are compared with."}
        <Button
          size="compact-xs"
          title="From now on, changes are told from what is listed now"
          onClick={() => {
            lookedAt(id, revision, readings);
            close();
          }}
        >
          Looked through
        </Button>
      </p>
      {changes && <Changes changes={changes} />}
    </div>
  );
}
