/** On a scene's page files may be dropped anywhere, or chosen: what they are is settled where they come in. */
import "./desk.css";
import { Modal } from "@mantine/core";
import { Dropzone } from "@mantine/dropzone";
import { useEffect, useRef } from "react";
import type { Inspection } from "../api/generated";
import { groundAt, settle } from "../state/contents";
import { session, setSession, useSession } from "../state/session";
import { bringSounds, isSound } from "../state/sounds";
import { Arriving } from "./Arriving";
import { NextVersion } from "./NextVersion";
import { Settle } from "./Settle";
import { LARGEST_BYTES, TOO_LARGE, useBringing } from "./bringing";

interface DropAnywhereProps {
  sceneId: string;
  onMade: (id: string) => void;
}

export function DropAnywhere({ sceneId, onMade }: DropAnywhereProps) {
  /** Where the hand was over the Picture when it let go, in shares of it. */
  const dropped = useRef<{ x: number; y: number } | null>(null);
  const bringing = useBringing((found) => take(found, dropped.current));
  const choose = useRef<() => void>(() => {});
  const versionAsked = useSession((s) => s.versionAsked);
  const apart = useSession((s) => s.apart);
  useEffect(
    () =>
      useSession.subscribe((state, before) => {
        // In the same breath as the click: else the browser opens no chooser.
        if (state.choosingFile > before.choosingFile) {
          dropped.current = null;
          choose.current();
        }
      }),
    [],
  );
  useEffect(() => {
    const follow = (event: DragEvent) => {
      dropped.current = inPicture(event);
      setSession({ replacing: null });
    };
    window.addEventListener("drop", follow, true);
    return () => window.removeEventListener("drop", follow, true);
  }, []);
  const { share, failure } = bringing;
  return (
    <>
      <Dropzone.FullScreen
        className="drop anywhere"
        portalProps={{ target: "#floating" }}
        openRef={choose}
        onDrop={(files) => {
          const heard = files.filter(isSound);
          if (heard.length) void bringSounds(heard);
          if (heard.length < files.length) bringing.bring(files.filter((file) => !isSound(file)));
        }}
        onReject={() => bringing.fail(TOO_LARGE)}
        maxSize={LARGEST_BYTES}
        inputProps={{ "aria-label": "Rig file dropped on the scene", onChange: forget }}
      >
        <b>Drop it: a character, a prop, a set piece, a sound, or the next version of a performance</b>
      </Dropzone.FullScreen>
      <Modal
        opened={share !== null || failure !== null}
        onClose={share === null ? bringing.leave : bringing.cancel}
        title="Bring in"
      >
        <Arriving {...bringing} />
      </Modal>
      {versionAsked && (
        <NextVersion
          key={versionAsked.found.digest}
          found={versionAsked.found}
          characterId={versionAsked.characterId}
          sceneId={sceneId}
          onClose={() => setSession({ versionAsked: null })}
          onApart={() => setSession({ versionAsked: null, apart: versionAsked.found })}
          onBeside={() => {
            setSession({ versionAsked: null });
            settle(versionAsked.found);
          }}
        />
      )}
      {apart && <Settle found={apart} onClose={() => setSession({ apart: null })} onMade={onMade} />}
    </>
  );
}

/** Once the files are taken over: the same one, mended, may be chosen again. */
function forget(event: React.ChangeEvent<HTMLInputElement>): void {
  const input = event.currentTarget;
  setTimeout(() => (input.value = ""));
}

function inPicture(event: DragEvent): { x: number; y: number } | null {
  const box = document.querySelector("[data-testid=picture]")?.getBoundingClientRect();
  if (!box) return null;
  const at = { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height };
  return at.x > 0 && at.x < 1 && at.y > 0 && at.y < 1 ? at : null;
}

/** What was asked for decides, else what the file looks like. */
function take(found: Inspection, dropped: { x: number; y: number } | null): void {
  const { replacing } = session();
  setSession({ replacing: null });
  if (replacing || found.likely === "character")
    setSession({ versionAsked: { found, characterId: replacing } });
  else settle(found, dropped ? groundAt(dropped) : undefined);
}
