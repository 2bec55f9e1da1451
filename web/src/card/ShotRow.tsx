/** A shot in the list: its picture, name, camera and length; the one at the playhead with all that can be said of it. */
import "./shots.css";
import { ActionIcon, Select, Textarea, TextInput } from "@mantine/core";
import { IconLock, IconLockOpen, IconX } from "@tabler/icons-react";
import { useState } from "react";
import type { CameraView } from "../api/generated";
import { EASES, SHOT_STATES, TRANSITION_KINDS } from "../api/tables";
import { LineSwatch } from "../marks/LineSwatch";
import { frameAspect } from "../optics/lens";
import { LivePicture } from "../stage/LivePicture";
import type { Shot } from "../state/cutting";
import { edit } from "../state/edits";
import { goTo } from "../state/playback";
import { type Session, useSession } from "../state/session";
import { namedSight } from "../state/sight";
import { type Transition, setTransition } from "../state/transitions";
import { NumberField } from "../widgets/NumberField";

const PICTURE_WIDTH = 58;

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

export function ShotRow({ shot, cameras, isHere }: { shot: Shot; cameras: CameraView[]; isHere: boolean }) {
  const rate = useSession((s) => s.scene!.rate_float);
  const isFirst = useSession((s) => s.scene!.first === shot.first);
  const camera = cameras.find((c) => c.id === shot.camera_id);
  const count = shot.last - shot.first + 1;
  const set = (
    changes: Partial<Pick<Shot, "camera_id" | "name" | "note" | "state" | "locked" | "handles">>,
  ) => edit({ edit: "set shot", first: shot.begins, ...changes });
  return (
    <li className={isHere ? "shot-row here" : "shot-row"} aria-current={isHere}>
      <div className="line">
        <ShotPicture shot={shot} />
        <button
          className="toggle"
          aria-pressed={isHere}
          title={`Go to ${shot.first}`}
          onClick={() => goTo(shot.first)}
        >
          <b className="mono">{shot.title}</b>
        </button>
        <span className="grow name" title={camera?.name}>
          {camera?.name}
          <span className="length">
            {camera && <LineSwatch camera={camera} />} {count} f{" "}
            <span className="soft">{(count / rate).toFixed(2)} s</span>
          </span>
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
          <div className="line ends">
            <NumberField
              label="slip"
              value={0}
              unit="f"
              digits={0}
              step={1}
              disabled={shot.locked || !camera?.keys.length}
              title="Let the camera's move come so many frames later under the shot, whose frames stay"
              onSet={(by) => edit({ edit: "slip shot", first: shot.begins, by: String(Math.round(by)) })}
            />
            <Handle shot={shot} side="before" onSet={(handles) => set({ handles })} />
            <Handle shot={shot} side="after" onSet={(handles) => set({ handles })} />
          </div>
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

/** Frames beyond its own end that are made as well. */
function Handle({
  shot,
  side,
  onSet,
}: {
  shot: Shot;
  side: "before" | "after";
  onSet: (handles: Shot["handles"]) => void;
}) {
  return (
    <NumberField
      label={side === "before" ? "handle before" : "after"}
      value={shot.handles[side]}
      unit="f"
      digits={0}
      step={1}
      min={0}
      title={`So many frames ${side} the shot are made as well, so that its cut can still be moved`}
      onSet={(frames) => onSet({ ...shot.handles, [side]: Math.round(frames) })}
    />
  );
}

/** What is seen in the middle of a shot; a click goes there. */
function ShotPicture({ shot }: { shot: Shot }) {
  const scene = useSession((s) => s.scene!);
  const middle = Math.floor((shot.first + shot.last) / 2);
  return (
    <button
      className="shot-picture"
      aria-label={`Go to the middle of shot ${shot.title}`}
      onClick={() => goTo(middle)}
    >
      <LivePicture
        width={PICTURE_WIDTH}
        height={Math.round(PICTURE_WIDTH / frameAspect(scene))}
        label={`Shot ${shot.title}`}
        frame={() => middle}
        sight={(state) => namedSight({ ...state, frame: middle }, shot.camera_id)}
        shows={(state) => looksOf(state, shot.camera_id)}
      />
    </button>
  );
}

/** Everything that a picture through a camera depends on, by name. */
function looksOf({ scene, shownAs }: Session, cameraId: string): string {
  const things = [...scene!.characters.map((c) => [c.rig, c.motion, c.shown, c.showing]), ...scene!.pieces];
  return JSON.stringify([shownAs, scene!.cameras.find((c) => c.id === cameraId)?.path, things]);
}
