/** Bring in a rig: drop or choose a file, see what it holds, settle its scale, and get a scene with a fitting camera. */
import { Dropzone } from "@mantine/dropzone";
import { Arriving } from "./Arriving";
import { Settle } from "./Settle";
import { LARGEST_BYTES, TOO_LARGE, useBringing } from "./bringing";

export function BringIn({ onMade }: { onMade: (id: string) => void }) {
  const bringing = useBringing();
  return (
    <>
      <Dropzone
        className="drop"
        onDrop={bringing.bring}
        onReject={() => bringing.fail(TOO_LARGE)}
        maxSize={LARGEST_BYTES}
        inputProps={{ "aria-label": "Rig file", onChange: forget }}
        my={12}
      >
        <b>Drop a .glb, .gltf, .bvh or USD file here, or click to choose one</b>
        <div className="soft">
          A .gltf together with its .bin and images. It becomes a scene with a shot camera that fits.
        </div>
      </Dropzone>
      <Arriving {...bringing} />
      {bringing.found && <Settle found={bringing.found} onClose={bringing.leave} onMade={onMade} />}
    </>
  );
}

/** Once the files are taken over: the same one, mended, may be chosen again. */
function forget(event: React.ChangeEvent<HTMLInputElement>): void {
  const input = event.currentTarget;
  setTimeout(() => (input.value = ""));
}
