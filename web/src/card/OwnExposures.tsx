/** Parts of a character, and props, that show new poses on frames of their own: a scarf on ones while the body is on twos. */
import "./ownExposures.css";
import { Select } from "@mantine/core";
import { IconX } from "@tabler/icons-react";
import type { CharacterView, PieceView, RigPart } from "../api/generated";
import { edit } from "../state/edits";
import { part, useSession } from "../state/session";
import { STEPS } from "./stepNames";

const heldOn = (step: number | null): CharacterView["parts"][number]["stepping"] | null =>
  step === null ? null : { step, offset: 0, keep_key_poses: false, starts: null, in_file_time: false };

export function OwnExposures({ character }: { character: CharacterView }) {
  const joints = useSession((s) => part<RigPart>(s, character.rig)?.joints ?? []);
  const pieces = useSession((s) => s.scene!.pieces);
  const props = pieces.filter((piece) => piece.kind === "prop" && !piece.block_id);
  const step = (joint: string, n: number | null) =>
    edit({
      edit: "step part",
      character_id: character.id,
      joint,
      stepping: heldOn(n),
    });
  const free = joints.filter((joint) => character.parts.every((own) => own.joint !== joint));
  return (
    <>
      <h3>Exposures of their own</h3>
      {character.parts.map(({ joint, stepping }) => (
        <div key={joint} className="own-exposures" data-testid="own-exposures">
          <b>{joint}</b>
          <StepOf name={joint} step={stepping.step} choose={(n) => step(joint, n)} />
          <button
            className="toggle"
            aria-label={`${joint} with the body again`}
            title="With the body again"
            onClick={() => step(joint, null)}
          >
            <IconX size={14} aria-hidden />
          </button>
        </div>
      ))}
      {props.map((piece) => (
        <div key={piece.id} className="own-exposures of-prop">
          <b>{piece.name}</b>
          <StepOf
            name={piece.name}
            step={piece.stepping?.step ?? null}
            without={isHeld(piece) ? "as held" : "ones"}
            choose={(n) =>
              edit({
                edit: "step piece",
                piece_id: piece.id,
                stepping: heldOn(n),
              })
            }
          />
        </div>
      ))}
      <Select
        aria-label="A part with exposures of its own"
        placeholder="another part: a scarf, a tail…"
        size="xs"
        data={free}
        value={null}
        searchable
        onChange={(joint) => joint && step(joint, 1)}
      />
    </>
  );
}

const isHeld = (piece: PieceView) => piece.holds.some((hold) => hold.character_id);

interface StepOfProps {
  name: string;
  /** Null where it has none of its own; then it is shown as `without` says. */
  step: number | null;
  without?: string;
  choose: (step: number | null) => void;
}

function StepOf({ name, step, without, choose }: StepOfProps) {
  return (
    <select
      aria-label={`Exposures of ${name}`}
      value={step ?? ""}
      onChange={(event) => choose(event.target.value ? Number(event.target.value) : null)}
    >
      {without && <option value="">{without}</option>}
      {STEPS.map(([n, title]) => (
        <option key={n} value={n}>
          on {title}
        </option>
      ))}
    </select>
  );
}
