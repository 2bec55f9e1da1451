/** On a scene's page a file may be dropped anywhere, or chosen: the next version of a performance, or a scene of its own. */
import "./desk.css";
import { Modal } from "@mantine/core";
import { Dropzone } from "@mantine/dropzone";
import { useEffect, useRef, useState } from "react";
import { useSession } from "../state/session";
import { Arriving } from "./Arriving";
import { NextVersion } from "./NextVersion";
import { Settle } from "./Settle";
import { LARGEST_BYTES, TOO_LARGE, useBringing } from "./bringing";

interface DropAnywhereProps {
  sceneId: string;
  onMade: (id: string) => void;
}

export function DropAnywhere({ sceneId, onMade }: DropAnywhereProps) {
  const bringing = useBringing();
  const [apart, setApart] = useState(false);
  const choose = useRef<() => void>(() => {});
  useEffect(
    () =>
      useSession.subscribe((state, before) => {
        // In the same breath as the click: else the browser opens no chooser.
        if (state.choosingFile > before.choosingFile) choose.current();
      }),
    [],
  );
  const { share, found, failure } = bringing;
  const leave = () => {
    setApart(false);
    bringing.leave();
  };
  const made = (id: string) => {
    leave();
    onMade(id);
  };
  return (
    <>
      <Dropzone.FullScreen
        className="drop anywhere"
        portalProps={{ target: "#floating" }}
        openRef={choose}
        onDrop={bringing.bring}
        onReject={() => bringing.fail(TOO_LARGE)}
        maxSize={LARGEST_BYTES}
        inputProps={{ "aria-label": "Rig file dropped on the scene" }}
      >
        <b>Drop it: the next version of a performance, or a scene of its own</b>
      </Dropzone.FullScreen>
      <Modal
        opened={share !== null || failure !== null}
        onClose={share === null ? leave : bringing.cancel}
        title="Bring in a rig"
      >
        <Arriving {...bringing} />
      </Modal>
      {found && !apart && (
        <NextVersion found={found} sceneId={sceneId} onClose={leave} onApart={() => setApart(true)} />
      )}
      {found && apart && <Settle found={found} onClose={leave} onMade={made} />}
    </>
  );
}
