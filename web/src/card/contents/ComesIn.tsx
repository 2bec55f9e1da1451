/** A file that has arrived: what it leaves open is settled here, while the Picture shows it standing in the scene. */
import "./contents.css";
import { Button, SegmentedControl, Switch, TextInput } from "@mantine/core";
import { useEffect, useMemo, useState } from "react";
import {
  bringInEdit,
  bringStandIn,
  chooseThing,
  type ThingKind,
  type Wanted,
  wantedOf,
} from "../../state/contents";
import { edit } from "../../state/edits";
import { cancelPreview, preview } from "../../state/previews";
import { type Arriving, notify, session, setSession, useSession } from "../../state/session";
import { FileChoices } from "../../widgets/FileChoices";
import { Fields, NumberField } from "../../widgets/NumberField";
import { UnlikelyHeight } from "../../widgets/UnlikelyHeight";

const KINDS: ThingKind[] = ["character", "prop", "set piece"];

export function ComesIn({ arriving, more }: { arriving: Arriving; more: number }) {
  const { found, standIn } = arriving;
  const first = useSession((s) => s.scene!.first);
  const characters = useSession((s) => s.scene!.characters);
  const id = useMemo(() => crypto.randomUUID(), []);
  const [wanted, setWanted] = useState<Wanted>({
    kind: found.likely,
    name: found.file_name.replace(/\.\w+$/, ""),
    scale: found.proposed_scale,
    start: first,
    rig: null,
    animation: null,
    offsets: "auto",
    asInFile: found.likely === "set piece" && !standIn,
  });
  const [withCameras, setWithCameras] = useState(true);
  const [each, setEach] = useState(false);
  const change = (changed: Partial<Wanted>) => setWanted({ ...wanted, ...changed });
  const comesIn = useMemo(
    () => (wanted.name.trim() ? bringInEdit(id, arriving, wanted) : null),
    [id, arriving, wanted],
  );
  useEffect(() => {
    if (comesIn) preview(comesIn);
  }, [comesIn]);
  const next = () => setSession({ arriving: session().arriving.slice(1) });
  const leave = () => {
    cancelPreview();
    next();
  };
  const bring = () => {
    if (!comesIn) return;
    if (each)
      found.rigs.forEach(({ name: rig }, index) => {
        const own = index ? crypto.randomUUID() : id;
        edit(bringInEdit(own, arriving, { ...wanted, rig, name: rig }, true));
      });
    else edit(comesIn);
    for (const camera of withCameras ? found.cameras : [])
      edit({
        edit: "bring file camera",
        camera_id: crypto.randomUUID(),
        thing_id: id,
        camera,
        error_px: 0.1,
      });
    next();
    chooseThing(id);
    const names = each ? found.rigs.map(({ name }) => name).join(", ") : wanted.name;
    notify(
      `${names} ${names === wanted.name ? "is" : "are"} in the scene. Drag a mark to where it is to stand; Ctrl Z takes it out.`,
    );
  };
  const usual = [found.file_name.replace(/\.\w+$/, ""), ...found.rigs.map(({ name }) => name)];
  const isUntouched = (name: string) => usual.includes(name);
  const isThere = (character: { id: string }) => character.id !== id;
  const mayBe = KINDS.filter((kind) => (kind === "character" ? found.joints : found.triangles));
  const { joints, triangles, height_units } = wantedOf(found, wanted);
  const tall = height_units * wanted.scale;
  return (
    <section
      aria-label="Bring in"
      className="comes-in"
      onKeyDown={(event) => {
        if (event.key !== "Escape") return;
        event.stopPropagation();
        leave();
      }}
    >
      <h2>
        {found.file_name} <small>{more ? `${more} more after it` : found.format_title}</small>
      </h2>
      <p className="why">
        {joints} joints, {triangles.toLocaleString("en")} triangles, {found.seconds.toFixed(2)} s of motion.
        The Picture shows it as it would stand.
      </p>
      <SegmentedControl
        fullWidth
        size="xs"
        aria-label="What it is"
        value={wanted.kind}
        data={mayBe}
        onChange={(kind) => change({ kind: kind as ThingKind })}
      />
      <TextInput
        label="Name"
        value={wanted.name}
        maxLength={120}
        error={wanted.name.trim() ? null : "Type at least one letter."}
        onChange={(event) => change({ name: event.currentTarget.value })}
        autoFocus
      />
      {standIn && !standIn.shape.endsWith("figure") && (
        <Fields columns={3}>
          {(["width", "height", "depth"] as const).map((side, index) => (
            <NumberField
              key={side}
              label={side}
              value={standIn.size[index]!}
              unit="m"
              min={0.01}
              max={1000}
              onSet={(metres) => {
                const size = standIn.size.map((s, i) => (i === index ? metres : s)) as typeof standIn.size;
                void bringStandIn(standIn.shape, size, arriving.at);
              }}
            />
          ))}
        </Fields>
      )}
      <Fields columns={2}>
        <NumberField
          label="stands high"
          value={tall}
          unit="m"
          digits={2}
          min={0.01}
          title="Its height at the start of its motion; all of it is scaled alike"
          disabled={!(height_units > 0)}
          onSet={(metres) => change({ scale: metres / height_units })}
        />
        <NumberField
          label="starts on"
          value={wanted.start}
          unit=""
          digits={0}
          step={1}
          title="The frame of its motion's first moment"
          onSet={(start) => change({ start: Math.round(start) })}
        />
      </Fields>
      <div className="placements" role="group" aria-label="Unit of the file">
        {(standIn ? [] : found.scales).map((scale) => (
          <button
            key={scale}
            className="toggle"
            aria-pressed={Math.abs(scale / wanted.scale - 1) < 1e-6}
            onClick={() => change({ scale })}
          >
            {UNITS[scale] ?? `× ${scale}`}
          </button>
        ))}
      </div>
      {wanted.kind === "character" && !standIn && <UnlikelyHeight tall={tall} />}
      <div className="placements" role="group" aria-label="Where it comes to stand">
        <button
          className="toggle"
          aria-pressed={!wanted.asInFile}
          onClick={() => change({ asInFile: false })}
        >
          where it was let go
        </button>
        <button className="toggle" aria-pressed={wanted.asInFile} onClick={() => change({ asInFile: true })}>
          where its file has it
        </button>
      </div>
      {found.cameras.length > 0 && (
        <Switch
          label={`With its ${found.cameras.length === 1 ? "camera" : `${found.cameras.length} cameras`}: ${found.cameras.join(", ")}`}
          checked={withCameras}
          onChange={(event) => setWithCameras(event.currentTarget.checked)}
        />
      )}
      <FileChoices
        found={found}
        choice={wanted}
        each={each}
        onEach={setEach}
        onChoose={(changed) => {
          // A name that was not typed goes with the rig.
          const named = changed.rig && isUntouched(wanted.name) ? { name: changed.rig } : {};
          change({ ...changed, ...named });
        }}
      />
      <div className="actions">
        <Button variant="filled" onClick={bring} disabled={!comesIn}>
          Bring it in
        </Button>
        <Button onClick={leave}>Leave it</Button>
      </div>
      {found.joints > 0 && !standIn && (
        <>
          <h3>Or</h3>
          <div className="actions">
            {characters.filter(isThere).map((character) => (
              <Button
                key={character.id}
                onClick={() => {
                  leave();
                  setSession({ versionAsked: { found, characterId: character.id } });
                }}
              >
                Next version of {character.name}
              </Button>
            ))}
            <Button
              onClick={() => {
                leave();
                setSession({ apart: found });
              }}
            >
              A scene of its own
            </Button>
          </div>
        </>
      )}
    </section>
  );
}

const UNITS: Record<number, string> = {
  1: "metres",
  0.1: "decimetres",
  0.01: "centimetres",
  0.001: "millimetres",
  0.0254: "inches",
  0.3048: "feet",
};
