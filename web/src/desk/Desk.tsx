/** The first screen: the scenes, each with a picture, and bringing in a rig. */
import "./desk.css";
import { ActionIcon, Button, Menu, TextInput } from "@mantine/core";
import { IconDots } from "@tabler/icons-react";
import { useCallback, useEffect, useState } from "react";
import { attentionOf, deleteScene, listScenes, restoreScene, sendEdit } from "../api/client";
import type { Attention, SceneListed, SequenceView } from "../api/generated";
import { READING_TITLES } from "../api/tables";
import { Brand } from "../widgets/Brand";
import { AccessMenu } from "./AccessMenu";
import { BringIn } from "./BringIn";
import { Sequences } from "./Sequences";

/** The menu keeps the focus until it is gone; the field comes after it. */
const MENU_CLOSES_MS = 60;
/** Kinds of readings that a scene's card names. */
const MOST_NAMED = 3;
/** Scenes that are judged for the Desk: those that were changed last. */
const MOST_ASKED = 24;

interface DeskProps {
  onOpen: (id: string) => void;
  onOpenSequence: (id: string) => void;
}

export function Desk({ onOpen, onOpenSequence }: DeskProps) {
  const [sequences, setSequences] = useState<SequenceView[]>([]);
  const [scenes, setScenes] = useState<SceneListed[] | null>(null);
  const [warning, setWarning] = useState("");
  const [failure, setFailure] = useState<string | null>(null);
  const [gone, setGone] = useState<SceneListed | null>(null);
  const load = useCallback(
    () =>
      listScenes()
        .then((answer) => {
          setScenes(answer.scenes);
          setSequences(answer.sequences);
          setWarning(answer.warning);
          setFailure(null);
        })
        .catch((error: Error) => setFailure(error.message)),
    [],
  );
  useEffect(() => void load(), [load]);
  const attention = useAttention(scenes);
  const run = (work: Promise<unknown>) => work.then(load).catch((error: Error) => setFailure(error.message));
  const remove = (scene: SceneListed) => {
    setGone(scene);
    void run(deleteScene(scene.id));
  };
  const bringBack = (scene: SceneListed) => {
    setGone(null);
    void run(restoreScene(scene.id));
  };
  return (
    <div className="desk">
      <header className="header" style={{ height: 42 }}>
        <Brand />
        <span className="crumbs">
          <b>Desk</b>
        </span>
        <div className="spacer" />
        <AccessMenu />
      </header>
      <main>
        <h1>Scenes</h1>
        <span className="soft">
          {scenes
            ? `${scenes.length} ${scenes.length === 1 ? "scene" : "scenes"}, the last changed first`
            : "…"}
        </span>
        {warning && (
          <div className="bar" role="alert">
            {warning}
          </div>
        )}
        {failure && (
          <div className="bar" role="alert">
            {failure}
            <span className="spacer" />
            <Button onClick={() => void load()}>Try again</Button>
          </div>
        )}
        {gone && (
          <div className="bar" role="status">
            “{gone.name}” was taken off the Desk.
            <span className="spacer" />
            <Button onClick={() => bringBack(gone)}>Bring it back</Button>
          </div>
        )}
        {scenes && <NextStep newest={scenes[0]} onOpen={onOpen} />}
        <ul className="scenes">
          {scenes?.map((scene) => (
            <SceneCard
              key={scene.id}
              scene={scene}
              attention={attention.get(`${scene.id} ${scene.revision}`)}
              onOpen={onOpen}
              onDelete={remove}
              run={run}
            />
          ))}
        </ul>
        {scenes && (scenes.length > 1 || sequences.length > 0) && (
          <Sequences sequences={sequences} scenes={scenes} onOpen={onOpenSequence} run={run} />
        )}
        <h1>Bring in a rig</h1>
        <BringIn onMade={onOpen} />
      </main>
    </div>
  );
}

/** What to do next, in one line. */
function NextStep({ newest, onOpen }: { newest: SceneListed | undefined; onOpen: (id: string) => void }) {
  return (
    <p className="next" data-testid="next-step">
      <b>Next:</b>{" "}
      {newest ? (
        <>
          <button className="link" onClick={() => onOpen(newest.id)}>
            open “{newest.name}”
          </button>{" "}
          and {newest.next_step}; or bring in another character below.
        </>
      ) : (
        "bring in a character with its performance, below: that is the first step."
      )}
    </p>
  );
}

/** What asks for attention in each scene, by its id and revision; one is asked for after the other, so that nobody waits. */
function useAttention(scenes: SceneListed[] | null): Map<string, Attention> {
  const [found, setFound] = useState(new Map<string, Attention>());
  useEffect(() => {
    let wanted = true;
    const ask = async () => {
      for (const { id, revision } of (scenes ?? []).slice(0, MOST_ASKED)) {
        const told = await attentionOf(id);
        if (!wanted) return;
        setFound((before) => new Map(before).set(`${id} ${revision}`, told));
      }
    };
    ask().catch(() => {}); // the Desk is there without it
    return () => {
      wanted = false;
    };
  }, [scenes]);
  return found;
}

function attentionText({ told, kinds }: Attention): string {
  if (told === null) return "judged when it is opened";
  if (!told) return "nothing out of bounds";
  const named = kinds.slice(0, MOST_NAMED).map((kind) => READING_TITLES[kind]);
  const more = kinds.length > MOST_NAMED ? ", …" : "";
  return `${told} ${told === 1 ? "reading" : "readings"}: ${named.join(", ")}${more}`;
}

interface SceneCardProps {
  scene: SceneListed;
  attention: Attention | undefined;
  onOpen: (id: string) => void;
  onDelete: (scene: SceneListed) => void;
  run: (work: Promise<unknown>) => void;
}

function SceneCard({ scene, attention, onOpen, onDelete, run }: SceneCardProps) {
  const [renaming, setRenaming] = useState(false);
  const open = (event: React.MouseEvent) => {
    event.preventDefault();
    onOpen(scene.id);
  };
  const rename = (name: string) => {
    setRenaming(false);
    if (name.trim() === scene.name) return;
    const request = { revision: scene.revision, request_id: crypto.randomUUID(), view: { judged: false } };
    run(sendEdit(scene.id, { ...request, edit: { edit: "rename scene", name } }));
  };
  return (
    <li className="scene" data-testid="scene-card">
      <a className="still" href={`/scenes/${scene.id}`} onClick={open} tabIndex={-1} aria-hidden="true">
        <Still scene={scene} />
      </a>
      <div className="about">
        <div style={{ flex: 1, minWidth: 0 }}>
          {renaming ? (
            <TextInput
              aria-label="Name of the scene"
              defaultValue={scene.name}
              size="xs"
              autoFocus
              onBlur={(event) => rename(event.currentTarget.value)}
              onKeyDown={(event) => {
                if (event.key === "Enter") event.currentTarget.blur();
                if (event.key === "Escape") setRenaming(false);
              }}
            />
          ) : (
            <a href={`/scenes/${scene.id}`} onClick={open}>
              {scene.name}
            </a>
          )}
          <div className="soft">
            {scene.characters.join(", ")} · {scene.first}–{scene.last} · {scene.rate} f/s
          </div>
          <div className={attention?.told ? "attention asks" : "attention soft"} data-testid="attention">
            {attention && attentionText(attention)}
          </div>
        </div>
        <Menu position="bottom-end" transitionProps={{ duration: 0 }}>
          <Menu.Target>
            <ActionIcon variant="subtle" color="gray" aria-label={`More for ${scene.name}`}>
              <IconDots size={18} />
            </ActionIcon>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={() => onOpen(scene.id)}>Open</Menu.Item>
            <Menu.Item onClick={() => setTimeout(() => setRenaming(true), MENU_CLOSES_MS)}>Rename</Menu.Item>
            <Menu.Item onClick={() => onDelete(scene)}>Delete</Menu.Item>
          </Menu.Dropdown>
        </Menu>
      </div>
    </li>
  );
}

function Still({ scene }: { scene: SceneListed }) {
  if (!scene.has_picture) return <span className="soft">no picture yet; open it and there will be one</span>;
  return <img src={`/api/scenes/${scene.id}/thumbnail?rev=${scene.revision}`} alt="" />;
}
