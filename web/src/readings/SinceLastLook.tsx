/** What became better and worse since somebody looked through the readings, or since another version; and that this is a look. */
import { Button } from "@mantine/core";
import { useEffect, useMemo, useState } from "react";
import { changedSince } from "../api/client";
import type { ChangeView, ReadingView, SceneView, SinceRequest } from "../api/generated";
import { isSource } from "../state/beside";
import { type Look, looksOf, lookedAt } from "../state/lastLook";
import { useSession } from "../state/session";
import { report } from "../state/shown";
import { Changes } from "../widgets/Changes";

/** From when on changes are told. */
interface Since {
  title: string;
  asks: SinceRequest;
}

const when = new Intl.DateTimeFormat("en-GB", { dateStyle: "medium", timeStyle: "short" });

export function SinceLastLook({ readings, close }: { readings: ReadingView[]; close: () => void }) {
  const scene = useSession((s) => s.scene)!;
  const { id, revision } = scene;
  const [looks] = useState<Look[]>(() => looksOf(id));
  const choices = useMemo(() => [...looks.map(ofLook), ...ofVersions(scene)], [looks, scene]);
  const [at, setAt] = useState(0);
  const since = choices[at] ?? choices[0];
  const asked = JSON.stringify(since?.asks ?? null);
  const [changes, setChanges] = useState<ChangeView[] | null>(null);
  useEffect(() => {
    let wanted = true;
    const asks = JSON.parse(asked) as SinceRequest | null;
    if (asks)
      changedSince(id, asks)
        .then((found) => wanted && setChanges(found))
        .catch(report);
    return () => {
      wanted = false;
    };
  }, [id, asked, revision]);
  return (
    <div className="since" data-testid="since">
      <p className="soft">
        {since ? (
          <select
            aria-label="Changes since"
            value={choices.indexOf(since)}
            onChange={(event) => setAt(Number(event.target.value))}
          >
            {choices.map(({ title }, index) => (
              <option key={title} value={index}>
                {title}
              </option>
            ))}
          </select>
        ) : (
          "Nobody has looked through the readings here yet: what is listed now is what later ones are compared with."
        )}
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

const ofLook = ({ at, revision, seen }: Look, index: number): Since => ({
  title: `since the ${index ? "" : "last "}look of ${when.format(new Date(at))}, revision ${revision}`,
  asks: { seen },
});

/** Of each character those that it does not perform now. */
const ofVersions = ({ characters }: SceneView): Since[] =>
  characters.flatMap((character) =>
    character.versions
      .filter(({ source }) => !isSource(source, character.source))
      .map(({ source, name }) => ({
        title: `since ${name} of ${character.name}`,
        asks: { version: { character_id: character.id, source } },
      })),
  );
