/** On a scene's page a file may be dropped anywhere: it is brought in as a scene of its own, as on the Desk. */
import "./desk.css";
import { Modal } from "@mantine/core";
import { Dropzone } from "@mantine/dropzone";
import { Arriving } from "./Arriving";
import { Settle } from "./Settle";
import { LARGEST_BYTES, TOO_LARGE, useBringing } from "./bringing";

export function DropAnywhere({ onMade }: { onMade: (id: string) => void }) {
  const bringing = useBringing();
  const { share, found, failure, leave } = bringing;
  const made = (id: string) => {
    leave();
    onMade(id);
  };
  return (
    <>
      <Dropzone.FullScreen
        className="drop anywhere"
        portalProps={{ target: "#floating" }}
        onDrop={bringing.bring}
        onReject={() => bringing.fail(TOO_LARGE)}
        maxSize={LARGEST_BYTES}
        inputProps={{ "aria-label": "Rig file dropped on the scene" }}
      >
        <b>Drop it: a rig becomes a scene of its own</b>
      </Dropzone.FullScreen>
      <Modal
        opened={share !== null || failure !== null}
        onClose={share === null ? leave : bringing.cancel}
        title="Bring in a rig"
      >
        <Arriving {...bringing} />
      </Modal>
      {found && <Settle found={found} onClose={leave} onMade={made} />}
    </>
  );
}
