/** Cuts that are kept beside the one that is shown: compared with it by the readings, and taken up instead. */
import "./shots.css";
import { ActionIcon, Button, TextInput } from "@mantine/core";
import { IconX } from "@tabler/icons-react";
import { useState } from "react";
import { compareCuts } from "../api/client";
import type { ChangeView } from "../api/generated";
import { Changes } from "../widgets/Changes";
import { edit } from "../state/edits";
import { notify, useSession } from "../state/session";

export function OtherCuts() {
  const scene = useSession((s) => s.scene)!;
  const [compared, setCompared] = useState<{ id: string; revision: number; changes: ChangeView[] } | null>(
    null,
  );
  const names = [scene.cut_name, ...scene.other_cuts.map((cut) => cut.name)];
  const keep = () => {
    const name = nextName(names);
    edit({ edit: "keep cut", cut_id: crypto.randomUUID(), name });
    notify(`Cut ${names[0]} is kept as it is; what you change now is cut ${name}.`);
  };
  const compare = (id: string) => {
    if (compared?.id === id && compared.revision === scene.revision) return setCompared(null);
    compareCuts(scene.id, id)
      .then(({ changes }) => setCompared({ id, revision: scene.revision, changes }))
      .catch((error: Error) => notify(error.message, "warning"));
  };
  if (!scene.other_cuts.length)
    return (
      <div className="actions">
        <Button onClick={keep} title="Then change it, and compare the two">
          Keep this cut, try another
        </Button>
      </div>
    );
  return (
    <section aria-label="Cuts" className="other-cuts">
      <h3>Cuts of this scene</h3>
      <ul>
        <li className="shown">
          <CutName
            key={names[0]}
            name={names[0]!}
            onSet={(name) => edit({ edit: "rename cut", cut_id: null, name })}
          />
          <span className="soft">{shotsText(scene.cut.length)}, shown</span>
        </li>
        {scene.other_cuts.map((cut) => (
          <li key={cut.id}>
            <CutName
              key={cut.name}
              name={cut.name}
              onSet={(name) => edit({ edit: "rename cut", cut_id: cut.id, name })}
            />
            <span className="soft">{shotsText(cut.shot_count)}</span>
            <Button onClick={() => compare(cut.id)} title="What becomes better and worse with it">
              Compare
            </Button>
            <Button
              onClick={() => edit({ edit: "take up cut", cut_id: cut.id })}
              title="The one that is shown is kept"
            >
              Take up
            </Button>
            <ActionIcon
              variant="subtle"
              color="gray"
              aria-label={`Take cut ${cut.name} out`}
              onClick={() => edit({ edit: "drop cut", cut_id: cut.id })}
            >
              <IconX size={15} />
            </ActionIcon>
          </li>
        ))}
      </ul>
      {compared?.revision === scene.revision && (
        <>
          <p className="why">
            With cut {scene.other_cuts.find((cut) => cut.id === compared.id)?.name} instead of {names[0]}:
          </p>
          <Changes changes={compared.changes} />
        </>
      )}
      <div className="actions">
        <Button onClick={keep}>Keep this one too</Button>
      </div>
    </section>
  );
}

const shotsText = (count: number) => (count === 1 ? "1 shot" : `${count} shots`);

/** The next letter that no cut has. */
function nextName(names: string[]): string {
  const free = [..."ABCDEFGHIJKLMNOPQRSTUVWXYZ"].find((letter) => !names.includes(letter));
  return free ?? `cut ${names.length + 1}`;
}

function CutName({ name, onSet }: { name: string; onSet: (name: string) => void }) {
  return (
    <TextInput
      size="xs"
      aria-label={`Name of cut ${name}`}
      defaultValue={name}
      maxLength={120}
      style={{ width: 62 }}
      onBlur={(event) => {
        const typed = event.currentTarget.value.trim();
        if (typed && typed !== name) onSet(typed);
      }}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}
