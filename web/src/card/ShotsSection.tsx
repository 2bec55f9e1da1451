/** The shots of the cut: reached, named, given another camera, moved and joined from here. */
import { ActionIcon, Button, Select, Textarea, TextInput } from "@mantine/core";
import { IconLock, IconLockOpen, IconX } from "@tabler/icons-react";
import { useState } from "react";
import type { CameraView } from "../api/generated";
import { EASES, SHOT_STATES, TRANSITION_KINDS } from "../api/tables";
import { LineSwatch } from "../marks/LineSwatch";
import { type Shot, cutHere, cutLive, shotAt, splitHere } from "../state/cutting";
import { edit } from "../state/edits";
import { type Transition, setTransition } from "../state/transitions";
import { goTo } from "../state/playback";
import { useCalmFrame } from "../state/calmFrame";
import { useSession } from "../state/session";
import { NumberField } from "../widgets/NumberField";

/** So many are listed around the one at the playhead. */
const MOST_LISTED = 24;

export function ShotsSection() {
  const scene = useSession((s) => s.scene)!;
  const live = useSession((s) => s.cuttingLive);
  const frame = useCalmFrame();
  const here = shotAt(scene, frame);
  const at = here ? scene.cut.indexOf(here) : 0;
  const from = Math.max(0, Math.min(at - MOST_LISTED / 2, scene.cut.length - MOST_LISTED));
  const listed = scene.cut.slice(from, from + MOST_LISTED);
  const after = scene.cut.length - from - listed.length;
  return (
    <section aria-label="Shots" className="shots">
      <h2 className="of-camera">
        Shots <small>{scene.cut.length === 1 ? "one camera shows all" : scene.cut.length}</small>
      </h2>
      {scene.cut.length === 1 && (
        <p className="why">
          Go to a frame, look through another camera (1 … 9), press <kbd>C</kbd>.
        </p>
      )}
      {from > 0 && <p className="why">{from} before these</p>}
      <ol>
        {listed.map((shot) => (
          <ShotRow key={shot.number} shot={shot} cameras={scene.cameras} isHere={shot === here} />
        ))}
      </ol>
      {after > 0 && <p className="why">{after} after these</p>}
      <div className="actions">
        <Button onClick={cutHere} title="C: to the camera that was looked through last">
          Cut here
        </Button>
        <Button onClick={splitHere} title="Alt X">
          Split
        </Button>
        <Button
          onClick={cutLive}
          title="Shift Space; the number keys cut"
          variant={live ? "filled" : "default"}
        >
          {live ? "Stop" : "Cut live"}
        </Button>
      </div>
    </section>
  );
}

/** How a shot takes over from the one before. */
function Beginning({ shot }: { shot: Shot }) {
  const { transition } = shot;
  return (
    <>
      <div className="line ends">
        <Select
          size="xs"
          label="begins with a"
          className="kind"
          rightSectionWidth={18}
          aria-label="How the shot begins"
          data={[...TRANSITION_KINDS]}
          value={transition.kind}
          allowDeselect={false}
          disabled={shot.locked}
          onChange={(kind) => kind && setTransition(shot, { kind: kind as Transition["kind"] })}
        />
        {transition.kind !== "cut" && (
          <>
            <NumberField
              label="frames"
              value={transition.frames}
              digits={0}
              step={1}
              disabled={shot.locked}
              title="How many frames it takes"
              onSet={(typed) => setTransition(shot, { frames: Math.max(1, Math.round(typed)) })}
            />
            <NumberField
              label="before"
              value={transition.before}
              digits={0}
              step={1}
              disabled={shot.locked}
              title="How many of them lie before the shot's first frame"
              onSet={(typed) => setTransition(shot, { before: Math.max(0, Math.round(typed)) })}
            />
          </>
        )}
      </div>
      {transition.kind !== "cut" && (
        <div className="line">
          <Select
            size="xs"
            aria-label="How the transition runs"
            data={[...EASES]}
            value={transition.ease}
            allowDeselect={false}
            disabled={shot.locked}
            onChange={(ease) => ease && setTransition(shot, { ease: ease as Transition["ease"] })}
            className="grow"
          />
          {transition.kind === "dip" && (
            <input
              type="color"
              aria-label="Colour of the dip"
              value={transition.colour}
              disabled={shot.locked}
              onChange={(event) => setTransition(shot, { colour: event.currentTarget.value })}
            />
          )}
        </div>
      )}
    </>
  );
}

function ShotRow({ shot, cameras, isHere }: { shot: Shot; cameras: CameraView[]; isHere: boolean }) {
  const rate = useSession((s) => s.scene!.rate_float);
  const isFirst = useSession((s) => s.scene!.first === shot.first);
  const camera = cameras.find((c) => c.id === shot.camera_id);
  const count = shot.last - shot.first + 1;
  const set = (changes: Partial<Pick<Shot, "camera_id" | "name" | "note" | "state" | "locked">>) =>
    edit({ edit: "set shot", first: shot.begins, ...changes });
  return (
    <li className={isHere ? "shot-row here" : "shot-row"} aria-current={isHere}>
      <div className="line">
        <button
          className="toggle"
          aria-pressed={isHere}
          title={`Go to ${shot.first}`}
          onClick={() => goTo(shot.first)}
        >
          <b className="mono">{shot.title}</b>
        </button>
        {camera && <LineSwatch camera={camera} />}
        <span className="grow name" title={camera?.name}>
          {camera?.name}
        </span>
        <span className="length">
          {count} f <span className="soft">{(count / rate).toFixed(2)} s</span>
        </span>
      </div>
      {isHere && (
        <>
          <div className="line">
            <Typed label="name" value={shot.name} placeholder={shot.title} onSet={(name) => set({ name })} />
            <Select
              size="xs"
              label="camera"
              aria-label="Camera of the shot"
              data={cameras.map((c) => ({ value: c.id, label: c.name }))}
              value={shot.camera_id}
              allowDeselect={false}
              disabled={shot.locked}
              onChange={(camera_id) => camera_id && set({ camera_id })}
              className="grow"
            />
          </div>
          <div className="line ends">
            <NumberField
              label="from"
              value={shot.first}
              digits={0}
              step={1}
              disabled={isFirst || shot.locked}
              title="Its first frame: the shot before makes room"
              onSet={(typed) => {
                const to = Math.round(typed);
                edit({ edit: "roll cut", first: shot.begins, to });
                goTo(to);
              }}
            />
            <Last shot={shot} />
            <Select
              size="xs"
              label="state"
              rightSectionWidth={18}
              data={[...SHOT_STATES]}
              value={shot.state}
              allowDeselect={false}
              onChange={(state) => state && set({ state: state as Shot["state"] })}
            />
          </div>
          {!isFirst && <Beginning shot={shot} />}
          <div className="line">
            <Note shot={shot} onSet={(note) => set({ note })} />
            <ActionIcon
              variant="subtle"
              color="gray"
              aria-label={shot.locked ? "Unlock the shot" : "Lock the shot"}
              aria-pressed={shot.locked}
              title={
                shot.locked ? "Locked: its frames and its camera stay" : "Lock its frames and its camera"
              }
              onClick={() => set({ locked: !shot.locked })}
            >
              {shot.locked ? <IconLock size={15} /> : <IconLockOpen size={15} />}
            </ActionIcon>
            <ActionIcon
              variant="subtle"
              color="gray"
              aria-label="Join it to the shot before"
              title="Join it to the shot before (Alt C)"
              disabled={isFirst || shot.locked}
              onClick={() => edit({ edit: "join shots", first: shot.begins })}
            >
              <IconX size={15} />
            </ActionIcon>
          </div>
        </>
      )}
    </li>
  );
}

/** The last frame of a shot is the edge of the one after it. */
function Last({ shot }: { shot: Shot }) {
  const next = useSession((s) => s.scene!.cut.find((other) => other.first === shot.last + 1));
  return (
    <NumberField
      label="to"
      value={shot.last}
      digits={0}
      step={1}
      disabled={!next || shot.locked}
      title="Its last frame: the shot after makes room"
      onSet={(last) => {
        edit({ edit: "roll cut", first: next!.begins, to: Math.round(last) + 1 });
        goTo(Math.max(shot.first, Math.round(last)));
      }}
    />
  );
}

function Note({ shot, onSet }: { shot: Shot; onSet: (note: string) => void }) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <Textarea
      size="xs"
      aria-label="Note on the shot"
      placeholder="Note"
      autosize
      className="grow"
      minRows={1}
      maxRows={5}
      maxLength={2000}
      value={typed ?? shot.note}
      onChange={(event) => setTyped(event.currentTarget.value)}
      onBlur={() => {
        if (typed !== null && typed !== shot.note) onSet(typed);
        setTyped(null);
      }}
    />
  );
}

interface TypedProps {
  label: string;
  value: string;
  placeholder: string;
  onSet: (value: string) => void;
}

function Typed({ label, value, placeholder, onSet }: TypedProps) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <TextInput
      size="xs"
      label={label}
      placeholder={placeholder}
      maxLength={120}
      value={typed ?? value}
      style={{ width: 74 }}
      onChange={(event) => setTyped(event.currentTarget.value)}
      onBlur={() => {
        if (typed !== null && typed.trim() !== value) onSet(typed.trim());
        setTyped(null);
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter") event.currentTarget.blur();
        if (event.key === "Escape") setTyped(null);
      }}
    />
  );
}
