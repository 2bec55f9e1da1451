/** All versions of a performance: each can be looked at, noted, and taken up again; cameras and cut stay as they are. */
import "./contents.css";
import { TextInput } from "@mantine/core";
import type { ChangedPart, CharacterView, RigPart } from "../../api/generated";
import { isSource, showBeside } from "../../state/beside";
import { edit } from "../../state/edits";
import { notify, part, useSession } from "../../state/session";
import { lookAtVersion, lookedAtCharacter, lookedAtVersion, takenUp } from "../../state/versionLook";

type Version = CharacterView["versions"][number];
const when = new Intl.DateTimeFormat("en-GB", {
  day: "numeric",
  month: "short",
  hour: "2-digit",
  minute: "2-digit",
});

export function VersionsSection({ character }: { character: CharacterView }) {
  const looked = useSession((s) => (lookedAtCharacter(s)?.id === character.id ? lookedAtVersion(s) : null));
  const changed = useSession((s) => part<ChangedPart>(s, character.changed));
  const joints = useSession((s) => part<RigPart>(s, character.rig)?.joints ?? []);
  const first = useSession((s) => s.scene!.first);
  const beside = useSession((s) => (s.beside?.characterId === character.id ? s.beside.source : null));
  const isBeside = ({ source }: Version) => beside !== null && isSource(source, beside);
  return (
    <>
      <h3>Versions</h3>
      {changed && <p className="why">{changedInWords(changed, joints, first)}</p>}
      {character.versions.map((version, index) => {
        const isCurrent = isSource(version.source, character.source);
        return (
          <div key={`${index} ${version.source.digest}`} className="version">
            <div className="saved-view">
              <b style={{ flex: 1 }}>{version.name}</b>
              <span className="soft">{version.brought_at && when.format(new Date(version.brought_at))}</span>
              {isCurrent && !looked ? (
                <span className="soft">performed</span>
              ) : (
                <>
                  <button
                    className="toggle"
                    title="As a ghost beside what is performed, with its arc: S; flipped: Shift S"
                    aria-pressed={isBeside(version)}
                    onClick={() => showBeside(character, isBeside(version) ? null : version)}
                  >
                    beside
                  </button>
                  <button
                    className="toggle"
                    title="As if it were performed, through any camera"
                    aria-pressed={looked === version}
                    onClick={() => lookAtVersion(character, looked === version ? null : version)}
                  >
                    look
                  </button>
                  <button
                    className="toggle"
                    onClick={() => {
                      edit(takenUp(character, version));
                      notify(`${character.name} performs ${version.name} again. Ctrl Z goes back.`);
                    }}
                  >
                    take up
                  </button>
                </>
              )}
            </div>
            <TextInput
              key={version.note}
              aria-label={`Note on ${version.name}`}
              placeholder="note"
              size="xs"
              defaultValue={version.note}
              onBlur={(event) => {
                const note = event.currentTarget.value.trim();
                if (note !== version.note)
                  edit({ edit: "note version", character_id: character.id, source: version.source, note });
              }}
              onKeyDown={(event) => {
                if (event.key === "Enter") event.currentTarget.blur();
              }}
            />
          </div>
        );
      })}
    </>
  );
}

/** How much of it the version changed, and where most. */
function changedInWords({ px, joints: worst, frames }: ChangedPart, joints: string[], first: number): string {
  if (!frames) return "No pose differs from the version before in the picture.";
  const row = px.reduce((best, value, at) => (value > (px[best] || 0) ? at : best), 0);
  const where = `${joints[worst[row]!] ?? "a joint"} by ${px[row]!.toFixed(1)} px on ${first + row}`;
  return `${frames} of ${px.length} frames differ from the version before; most, ${where}. The Sheet marks them.`;
}
