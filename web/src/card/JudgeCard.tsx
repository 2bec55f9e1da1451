/** Judge: one joint's arc and spacing on the screen, at this frame and over the scene. */
import { Button, Select, Switch } from "@mantine/core";
import type { ArcJudgementPart, ArcPart, RigPart } from "../api/generated";
import { askForFile } from "../state/contents";
import { edit, refreshView } from "../state/edits";
import { toggleFreeze } from "../state/looking";
import { useCalmFrame } from "../state/calmFrame";
import { chosenCharacter, part, setSession, useSession } from "../state/session";
import { JointActions } from "./JointActions";
import { Figure, PixelsOf, px } from "../widgets/Figure";
import { Fields, NumberField } from "../widgets/NumberField";

function turnFront(characterId: string, degrees: number | null): void {
  edit({ edit: "set front", character_id: characterId, front_deg: degrees });
}

export function JudgeCard() {
  const scene = useSession((s) => s.scene)!;
  const looking = useSession((s) => s.looking);
  const character = useSession((s) => chosenCharacter(s));
  const rig = useSession((s) => part<RigPart>(s, character?.rig));
  const joint = useSession((s) => s.joint);
  const frozen = useSession((s) => s.frozenFrame);
  const showArc = useSession((s) => s.showArc);
  const showOnion = useSession((s) => s.showOnion);
  const arc = useSession((s) => part<ArcPart>(s, s.scene?.arc));
  if (!character || !rig) return <p className="why">The scene has no character.</p>;
  const choose = (name: string | null) => {
    setSession({ joint: name });
    void refreshView();
  };
  const chooseCharacter = (id: string | null) => {
    setSession({ characterId: id, joint: null });
    void refreshView();
  };
  return (
    <>
      <h2>
        {joint ?? character.name} <small>{joint ? character.name : `${rig.joints.length} joints`}</small>
      </h2>
      <div className="actions">
        <Button
          title="A file with its motion, as it was exported last; it may also be dropped anywhere here"
          onClick={() => askForFile(character.id)}
        >
          Next version…
        </Button>
      </div>
      {scene.characters.length > 1 && (
        <Select
          label="Character"
          data={scene.characters.map((c) => ({ value: c.id, label: c.name }))}
          value={character.id}
          allowDeselect={false}
          onChange={chooseCharacter}
        />
      )}
      <Select
        label="Joint"
        placeholder="Click one in the Picture, or type"
        data={[...new Set(rig.joints)]}
        value={joint}
        onChange={choose}
        searchable
        clearable
      />
      {joint && arc ? (
        <ArcFigures arc={arc} first={scene.first} />
      ) : (
        <p className="why">
          Choose a joint, and its way over the screen is drawn and judged through{" "}
          {looking === "cut" ? "the cut" : "this camera"}.
        </p>
      )}
      {joint && <JointActions character={character} joint={joint} />}
      <Fields columns={2}>
        <NumberField
          label={`front of ${character.name}`}
          title="Degrees round from +Z: what front, side and lead room go by"
          value={
            character.front_deg ?? (Math.atan2(character.front[0]!, character.front[2]!) * 180) / Math.PI
          }
          unit="°"
          digits={1}
          onSet={(v) => turnFront(character.id, v)}
        />
        {character.front_deg !== null && (
          <Button mt={22} onClick={() => turnFront(character.id, null)}>
            As measured
          </Button>
        )}
      </Fields>
      <h3>Shown in the Picture</h3>
      <Switch
        label="The arc (A)"
        checked={showArc}
        onChange={() => setSession({ showArc: !showArc })}
        size="xs"
        mb={6}
      />
      <Switch
        label={
          frozen === null ? "Frozen on this frame's camera (I)" : `Frozen on the camera of ${frozen} (I)`
        }
        checked={frozen !== null}
        disabled={!joint}
        size="xs"
        mb={6}
        onChange={() => {
          toggleFreeze();
          void refreshView();
        }}
      />
      <Switch
        label="Onion skin (O)"
        checked={showOnion}
        onChange={() => setSession({ showOnion: !showOnion })}
        size="xs"
      />
      {joint && <Taking sceneId={scene.id} characterId={character.id} joint={joint} frozen={frozen} />}
    </>
  );
}

function ArcFigures({ arc, first }: { arc: ArcPart; first: number }) {
  const frame = useCalmFrame();
  const row = frame - first;
  const known = Array.from(arc.spacing_px.filter((v) => !Number.isNaN(v)));
  const mean = known.reduce((sum, v) => sum + v, 0) / Math.max(1, known.length);
  const judgement = useSession((s) => part<ArcJudgementPart>(s, s.scene?.arc_judgement));
  return (
    <>
      <h3>
        On screen at {frame} <PixelsOf />
      </h3>
      <div className="largest calm">
        <b data-testid="spacing-here">
          {Number.isNaN(arc.spacing_px[row]) ? "–" : arc.spacing_px[row]!.toFixed(1)}
        </b>{" "}
        px spacing
      </div>
      <Figure label="the subject's share">{px(arc.subject_px[row])}</Figure>
      <Figure label="the camera's share" testId="camera-share">
        {px(arc.camera_px[row])}
      </Figure>
      <Figure label="off the arc">{px(judgement?.off_arc_px[row])}</Figure>
      <Figure label="off the spacing">{px(judgement?.off_spacing_px[row])}</Figure>
      <Figure label="least that could be told">{px(judgement?.least_px[row])}</Figure>
      {judgement?.undetectable[row] === 1 && (
        <p className="why">The camera shakes too much here: nothing can be told of the arc through it.</p>
      )}
      <h3>Over the scene</h3>
      <Figure label="spacing least">{px(Math.min(...known))}</Figure>
      <Figure label="spacing most">{px(Math.max(...known))}</Figure>
      <Figure label="spacing mean">{px(mean)}</Figure>
    </>
  );
}

function Taking({
  sceneId,
  characterId,
  joint,
  frozen,
}: {
  sceneId: string;
  characterId: string;
  joint: string;
  frozen: number | null;
}) {
  const query = new URLSearchParams({ character: characterId, joint });
  if (frozen !== null) query.set("frozen", String(frozen));
  return (
    <div className="actions" style={{ marginTop: 14 }}>
      <Button component="a" href={`/api/scenes/${sceneId}/exports/arc.csv?${query}`} download>
        Arc as CSV
      </Button>
    </div>
  );
}
