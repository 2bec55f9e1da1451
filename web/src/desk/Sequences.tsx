/** Sequences on the Desk: their scenes end to end, put in order by dragging or by keys, and played through. */
import { ActionIcon, Button, Menu, Select, TextInput } from "@mantine/core";
import { IconArrowBackUp, IconArrowForwardUp, IconDots, IconPlayerPlayFilled } from "@tabler/icons-react";
import { useRef, useState } from "react";
import { deleteSequence, editSequence, makeSequence, replaySequence, restoreSequence } from "../api/client";
import type { SceneListed, SequenceEditRequest, SequenceView } from "../api/generated";

type SequenceEdit = SequenceEditRequest["edit"];
type Run = (work: Promise<unknown>) => void;

interface SequencesProps {
  sequences: SequenceView[];
  scenes: SceneListed[];
  onOpen: (id: string) => void;
  run: Run;
}

export function Sequences({ sequences, scenes, onOpen, run }: SequencesProps) {
  const [gone, setGone] = useState<SequenceView | null>(null);
  const make = () => run(makeSequence({ name: nextName(sequences), scene_ids: [] }));
  return (
    <section className="sequences" aria-label="Sequences">
      <h1>Sequences</h1>
      <span className="soft">
        {sequences.length
          ? "scenes end to end; drag them into order, or Alt ← → on one"
          : "String scenes end to end, and play them through with one time code."}
      </span>
      {gone && (
        <div className="bar" role="status">
          “{gone.name}” was taken off the Desk; its scenes stay.
          <span className="spacer" />
          <Button
            onClick={() => {
              setGone(null);
              run(restoreSequence(gone.id));
            }}
          >
            Bring it back
          </Button>
        </div>
      )}
      <ul>
        {sequences.map((sequence) => (
          <SequenceRow
            key={sequence.id}
            sequence={sequence}
            scenes={scenes}
            onOpen={onOpen}
            run={run}
            onDelete={() => {
              setGone(sequence);
              run(deleteSequence(sequence.id));
            }}
          />
        ))}
      </ul>
      <Button onClick={make} disabled={!scenes.length}>
        New sequence
      </Button>
    </section>
  );
}

function nextName(sequences: SequenceView[]): string {
  const names = sequences.map((sequence) => sequence.name);
  for (let number = sequences.length + 1; ; number++)
    if (!names.includes(`Sequence ${number}`)) return `Sequence ${number}`;
}

interface RowProps {
  sequence: SequenceView;
  scenes: SceneListed[];
  onOpen: (id: string) => void;
  onDelete: () => void;
  run: Run;
}

function SequenceRow({ sequence, scenes, onOpen, onDelete, run }: RowProps) {
  const change = (edit: SequenceEdit) =>
    run(editSequence(sequence.id, { revision: sequence.revision, request_id: crypto.randomUUID(), edit }));
  const replay = (way: "undo" | "redo") => run(replaySequence(sequence.id, way, sequence.revision));
  const inIt = new Set(sequence.scenes.map((scene) => scene.scene_id));
  const others = scenes.filter((scene) => !inIt.has(scene.id));
  return (
    <li className="sequence" data-testid="sequence">
      <div className="line">
        <TextInput
          key={sequence.name}
          size="xs"
          aria-label="Name of the sequence"
          className="name"
          defaultValue={sequence.name}
          maxLength={120}
          onBlur={(event) => {
            const name = event.currentTarget.value.trim();
            if (name && name !== sequence.name) change({ edit: "rename sequence", name });
          }}
          onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        />
        <span className="soft">{lengthText(sequence)}</span>
        <span className="spacer" />
        {sequence.scenes.length > 0 && (
          <StartTimecode key={sequence.timecode.text} text={sequence.timecode.text} change={change} />
        )}
        <ActionIcon
          variant="subtle"
          color="gray"
          disabled={!sequence.undo}
          aria-label={sequence.undo ? `Undo ${sequence.undo}` : "Nothing to undo"}
          onClick={() => replay("undo")}
        >
          <IconArrowBackUp size={18} />
        </ActionIcon>
        <ActionIcon
          variant="subtle"
          color="gray"
          disabled={!sequence.redo}
          aria-label={sequence.redo ? `Redo ${sequence.redo}` : "Nothing to redo"}
          onClick={() => replay("redo")}
        >
          <IconArrowForwardUp size={18} />
        </ActionIcon>
        <Menu position="bottom-end" transitionProps={{ duration: 0 }}>
          <Menu.Target>
            <ActionIcon variant="subtle" color="gray" aria-label={`More for ${sequence.name}`}>
              <IconDots size={18} />
            </ActionIcon>
          </Menu.Target>
          <Menu.Dropdown>
            <Menu.Item onClick={onDelete}>Delete</Menu.Item>
          </Menu.Dropdown>
        </Menu>
        <Button
          disabled={!sequence.scenes.length}
          leftSection={<IconPlayerPlayFilled size={12} />}
          onClick={() => onOpen(sequence.id)}
        >
          Open
        </Button>
      </div>
      <Blocks sequence={sequence} change={change} />
      {others.length > 0 && (
        <Select
          size="xs"
          className="add"
          aria-label={`Add a scene to ${sequence.name}`}
          placeholder={sequence.scenes.length ? "add a scene" : "add its first scene"}
          data={others.map((scene) => ({ value: scene.id, label: scene.name }))}
          value={null}
          onChange={(id) => id && change({ edit: "add scene", scene_id: id, index: null })}
        />
      )}
    </li>
  );
}

function lengthText({ scenes, frames, seconds }: SequenceView): string {
  const count = scenes.length === 1 ? "1 scene" : `${scenes.length} scenes`;
  return scenes.length ? `${count} · ${Math.round(frames)} frames · ${seconds.toFixed(2)} s` : "empty";
}

/** The time code of its first frame. */
function StartTimecode({ text, change }: { text: string; change: (edit: SequenceEdit) => void }) {
  return (
    <TextInput
      size="xs"
      className="timecode"
      aria-label="Time code of its first frame"
      title="Time code of its first frame"
      defaultValue={text}
      onBlur={(event) => {
        const typed = event.currentTarget.value;
        if (typed !== text) change({ edit: "start timecode", text: typed });
      }}
      onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
    />
  );
}

/** The scenes in order, each as wide as it is long; one in the hand takes its new place at once. */
function Blocks({ sequence, change }: { sequence: SequenceView; change: (edit: SequenceEdit) => void }) {
  const row = useRef<HTMLOListElement>(null);
  const [held, setHeld] = useState<{ id: string; index: number } | null>(null);
  const { scenes } = sequence;
  const others = scenes.filter((scene) => scene.scene_id !== held?.id);
  const taken = scenes.find((scene) => scene.scene_id === held?.id);
  const shown = held && taken ? [...others.slice(0, held.index), taken, ...others.slice(held.index)] : scenes;
  const indexAt = (x: number, id: string) =>
    [...row.current!.children].filter((block) => {
      const box = block.getBoundingClientRect();
      return block.getAttribute("data-scene") !== id && box.left + box.width / 2 < x;
    }).length;
  const move = (id: string, index: number) => {
    const from = scenes.findIndex((scene) => scene.scene_id === id);
    if (index !== from && index >= 0 && index < scenes.length)
      change({ edit: "move scene", scene_id: id, index });
  };
  if (!scenes.length) return null;
  return (
    <ol ref={row} className="blocks">
      {shown.map((scene, index) => (
        <li
          key={scene.scene_id}
          data-scene={scene.scene_id}
          className={scene.scene_id === held?.id ? "held" : undefined}
          style={{ flexGrow: scene.lasts }}
          tabIndex={0}
          aria-label={`${scene.name}, ${index + 1} of ${scenes.length}, from ${scene.timecode}`}
          onKeyDown={(event) => {
            if (event.key === "Delete") change({ edit: "take scene out", scene_id: scene.scene_id });
            if (!event.altKey || !/^Arrow(Left|Right)$/.test(event.key)) return;
            event.preventDefault();
            move(scene.scene_id, index + (event.key === "ArrowRight" ? 1 : -1));
          }}
          onPointerDown={(event) => {
            if (event.button !== 0 || (event.target as Element).closest("button")) return;
            event.preventDefault();
            event.currentTarget.focus();
            event.currentTarget.setPointerCapture(event.pointerId);
            setHeld({ id: scene.scene_id, index });
          }}
          onPointerMove={(event) => {
            if (held?.id === scene.scene_id)
              setHeld({ id: scene.scene_id, index: indexAt(event.clientX, scene.scene_id) });
          }}
          onPointerUp={() => {
            if (held) move(held.id, held.index);
            setHeld(null);
          }}
          onPointerCancel={() => setHeld(null)}
        >
          {scene.has_picture ? (
            <img
              src={`/api/scenes/${scene.scene_id}/thumbnail?rev=${scene.revision}`}
              alt=""
              draggable={false}
            />
          ) : (
            <span className="no-picture" />
          )}
          <span className="about">
            <b>{scene.name}</b>
            <span className="mono soft">{scene.timecode}</span>
            {scene.other_rate && <span className="unkeyed">{+scene.rate_float.toFixed(3)} f/s</span>}
          </span>
          <button
            className="out"
            aria-label={`Take ${scene.name} out of the sequence`}
            onClick={() => change({ edit: "take scene out", scene_id: scene.scene_id })}
          >
            ×
          </button>
        </li>
      ))}
    </ol>
  );
}
