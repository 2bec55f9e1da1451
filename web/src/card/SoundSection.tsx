/** What is heard, and what is marked: sounds set and muted, lines found in them, cuts placed before a mark. */
import "./sounds.css";
import { ActionIcon, Button, FileButton, TextInput } from "@mantine/core";
import { IconVolume, IconVolumeOff, IconX } from "@tabler/icons-react";
import { useState } from "react";
import { cutOn } from "../state/cutting";
import { edit } from "../state/edits";
import { goTo } from "../state/playback";
import { notify, useSession } from "../state/session";
import { type Mark, type SoundView, bringSounds, linesOf, markHere, setSound } from "../state/sounds";
import { useCalmFrame } from "../state/calmFrame";
import { Fields, NumberField } from "../widgets/NumberField";

const [USUAL_THRESHOLD_DB, USUAL_SILENCE_S, USUAL_BEFORE] = [-40, 0.3, 6];
/** So many are listed around the playhead. */
const MOST_LISTED = 12;

export function SoundSection() {
  const sounds = useSession((s) => s.scene!.sounds);
  return (
    <section aria-label="Sound" className="sounds">
      <h3>What is heard</h3>
      {!sounds.length && <p className="why">Drop a WAV, Ogg, FLAC or MP3 anywhere, or bring one in here.</p>}
      {sounds.map((view) => (
        <SoundRow key={view.sound.id} view={view} />
      ))}
      <div className="actions">
        <FileButton onChange={(files) => void bringSounds(files)} accept=".wav,.ogg,.flac,.mp3" multiple>
          {(props) => <Button {...props}>Bring in a sound…</Button>}
        </FileButton>
      </div>
      <Marks />
    </section>
  );
}

function SoundRow({ view }: { view: SoundView }) {
  const [open, setOpen] = useState(false);
  const { sound, seconds } = view;
  const end = sound.last_s ?? seconds;
  return (
    <div className="sound-row">
      <div className="line">
        <button
          className="toggle grow name"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
          title={sound.name}
        >
          {sound.name}
        </button>
        <span className="length">
          from {sound.start} <span className="soft">{(end - sound.first_s).toFixed(2)} s</span>
        </span>
        <ActionIcon
          variant="subtle"
          color="gray"
          aria-label={sound.muted ? `Hear ${sound.name}` : `Mute ${sound.name}`}
          aria-pressed={sound.muted}
          onClick={() => setSound(view, { muted: !sound.muted })}
        >
          {sound.muted ? <IconVolumeOff size={15} /> : <IconVolume size={15} />}
        </ActionIcon>
        <ActionIcon
          variant="subtle"
          color="gray"
          aria-label={`Take out ${sound.name}`}
          onClick={() => edit({ edit: "take out sound", sound_id: sound.id })}
        >
          <IconX size={15} />
        </ActionIcon>
      </div>
      {open && (
        <>
          <Fields columns={2}>
            <NumberField
              label="begins on"
              value={sound.start}
              digits={0}
              step={1}
              title="The frame on which its first moment is heard"
              onSet={(start) => setSound(view, { start: Math.round(start) })}
            />
            <NumberField
              label="louder by"
              unit="dB"
              value={sound.gain_db}
              digits={1}
              step={1}
              min={-80}
              max={24}
              onSet={(gain_db) => setSound(view, { gain_db })}
            />
            <NumberField
              label="heard from"
              unit="s"
              value={sound.first_s}
              digits={3}
              step={0.05}
              min={0}
              max={end - 0.001}
              onSet={(first_s) => setSound(view, { first_s })}
            />
            <NumberField
              label="to"
              unit="s"
              value={end}
              digits={3}
              step={0.05}
              min={sound.first_s + 0.001}
              max={seconds}
              onSet={(last) => setSound(view, { last_s: last >= seconds - 1e-4 ? null : last })}
            />
          </Fields>
          <Lines view={view} />
        </>
      )}
    </div>
  );
}

/** Where somebody begins to speak after silence. */
function Lines({ view }: { view: SoundView }) {
  const [threshold, setThreshold] = useState(USUAL_THRESHOLD_DB);
  const [silence, setSilence] = useState(USUAL_SILENCE_S);
  const find = async () => {
    const marks = await linesOf(view, threshold, silence);
    if (!marks) return;
    const begins = marks.filter((mark) => mark.kind === "line begins").length;
    if (!begins) return notify("Nothing in it is louder than that. Lower the threshold.");
    edit({ edit: "mark frames", marks });
    notify(`${begins === 1 ? "One line" : `${begins} lines`} found and marked. Ctrl Z takes the marks away.`);
  };
  return (
    <>
      <Fields columns={2}>
        <NumberField
          label="louder than"
          unit="dB"
          value={threshold}
          digits={0}
          step={1}
          min={-100}
          max={0}
          title="Speech is what is louder than this below full scale"
          onSet={setThreshold}
        />
        <NumberField
          label="after silence"
          unit="s"
          value={silence}
          digits={2}
          step={0.05}
          min={0}
          max={60}
          title="Shorter gaps belong to a line"
          onSet={setSilence}
        />
      </Fields>
      <div className="actions">
        <Button onClick={() => void find()}>Find lines</Button>
      </div>
    </>
  );
}

function Marks() {
  const marks = useSession((s) => s.scene!.marks);
  const [before, setBefore] = useState(USUAL_BEFORE);
  const frame = useCalmFrame();
  const next = marks.findIndex((mark) => mark.frame >= frame);
  const from = Math.max(
    0,
    Math.min((next < 0 ? marks.length : next) - MOST_LISTED / 2, marks.length - MOST_LISTED),
  );
  const listed = marks.slice(from, from + MOST_LISTED);
  return (
    <>
      <h3>
        Marks <small className="soft">{marks.length || ""}</small>
      </h3>
      {!marks.length && (
        <p className="why">
          <kbd>Alt A</kbd> marks an action, also while it plays.
        </p>
      )}
      {listed.map((mark) => (
        <MarkRow
          key={`${mark.frame} ${mark.kind} ${mark.text}`}
          mark={mark}
          before={before}
          isHere={mark.frame === frame}
        />
      ))}
      {marks.length > listed.length && (
        <p className="why">{marks.length - listed.length} more, in the Sheet.</p>
      )}
      <div className="actions">
        <Button onClick={() => markHere("action")} title="Alt A">
          Mark {frame}
        </Button>
        {marks.length > 0 && (
          <NumberField
            label="cut before by"
            unit="f"
            value={before}
            digits={0}
            step={1}
            min={0}
            max={240}
            onSet={setBefore}
          />
        )}
      </div>
    </>
  );
}

function MarkRow({ mark, before, isHere }: { mark: Mark; before: number; isHere: boolean }) {
  const first = useSession((s) => s.scene!.first);
  const rename = (text: string) => {
    if (text === mark.text) return;
    edit({ edit: "mark frames", marks: [{ ...mark, text }] });
  };
  return (
    <div className="line mark-row">
      <button className="toggle" aria-pressed={isHere} onClick={() => goTo(mark.frame)}>
        <span className="mono">{mark.frame}</span>
      </button>
      <span className="soft">{mark.kind}</span>
      <TextInput
        size="xs"
        className="grow"
        aria-label={`What happens on ${mark.frame}`}
        defaultValue={mark.text}
        onBlur={(event) => rename(event.currentTarget.value.trim())}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
      />
      <button
        className="toggle"
        title={`Cut on ${mark.frame - before} to the camera that was looked through last`}
        onClick={() => cutOn(Math.max(first, mark.frame - before))}
      >
        cut
      </button>
      <ActionIcon
        variant="subtle"
        color="gray"
        aria-label={`Take the mark on ${mark.frame} away`}
        onClick={() => edit({ edit: "unmark frame", frame: mark.frame, kind: mark.kind })}
      >
        <IconX size={14} />
      </ActionIcon>
    </div>
  );
}
