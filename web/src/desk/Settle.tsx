/** Settle what a file leaves open: its scale, rate and first frame; then there is a scene. */
import { Button, Modal, NumberInput, Select, TextInput } from "@mantine/core";
import { useState } from "react";
import { makeScene } from "../api/client";
import type { Inspection, MakeScene } from "../api/generated";
import { FileChoices, type MotionChoice } from "../widgets/FileChoices";
import { UnlikelyHeight } from "../widgets/UnlikelyHeight";

export function Settle({
  found,
  onClose,
  onMade,
}: {
  found: Inspection;
  onClose: () => void;
  onMade: (id: string) => void;
}) {
  const [name, setName] = useState(found.file_name.replace(/\.\w+$/, ""));
  const [scale, setScale] = useState(found.proposed_scale);
  const [rate, setRate] = useState("24");
  const [start, setStart] = useState(1);
  const [motion, setMotion] = useState<MotionChoice>({ rig: null, animation: null, offsets: "auto" });
  const [failure, setFailure] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const { height_units } = found.rigs.find(({ name }) => name === motion.rig) ?? found;
  const make = async () => {
    setBusy(true);
    setFailure(null);
    try {
      const { digest, format } = found;
      const request = {
        digest,
        format: format as MakeScene["format"],
        name,
        scale,
        rate,
        start,
        ...motion,
      };
      onMade((await makeScene(request)).id);
    } catch (error) {
      setFailure((error as Error).message);
      setBusy(false);
    }
  };
  return (
    <Modal opened onClose={onClose} title={`${found.file_name}, ${found.format_title}`}>
      <p className="why">
        {found.joints} joints, {found.triangles.toLocaleString("en")} triangles, {found.seconds.toFixed(2)}{" "}
        seconds of motion.
      </p>
      <TextInput
        label="Name of the scene"
        value={name}
        onChange={(event) => setName(event.currentTarget.value)}
        data-autofocus
      />
      <Select
        label="Scale, metres per unit of the file"
        data={[...new Set([...found.scales, scale])].map((s) => ({
          value: String(s),
          label: `${s}  (stands ${(height_units * s).toFixed(2)} m high)`,
        }))}
        value={String(scale)}
        allowDeselect={false}
        onChange={(value) => setScale(Number(value))}
        mt={8}
      />
      {found.joints > 0 && <UnlikelyHeight tall={height_units * scale} />}
      <div style={{ display: "flex", gap: 8, marginTop: 8 }}>
        <Select
          label="Frames a second"
          data={["12", "24", "25", "30", "24000/1001", "30000/1001", "48", "60"]}
          value={rate}
          allowDeselect={false}
          onChange={(value) => setRate(value ?? "24")}
          style={{ flex: 1 }}
        />
        <NumberInput
          label="First frame"
          value={start}
          onChange={(v) => typeof v === "number" && setStart(v)}
          style={{ flex: 1 }}
        />
      </div>
      <FileChoices
        found={found}
        choice={motion}
        onChoose={(changed) => setMotion({ ...motion, ...changed })}
      />
      {failure && (
        <div className="bar" role="alert">
          {failure}
        </div>
      )}
      <div className="actions" style={{ justifyContent: "flex-end", marginTop: 16 }}>
        <Button onClick={onClose}>Leave it</Button>
        <Button variant="filled" loading={busy} disabled={!name.trim()} onClick={() => void make()}>
          Make the scene
        </Button>
      </div>
    </Modal>
  );
}
