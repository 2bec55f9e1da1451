/** An undo that would take back what other windows did: what that is, and whether it should be. */
import { Button, Modal } from "@mantine/core";
import { undoOfOthers } from "../state/edits";
import { setSession, useSession } from "../state/session";

export function UndoDialog() {
  const asking = useSession((s) => s.asking);
  const leave = () => setSession({ asking: null });
  return (
    <Modal opened={asking !== null} onClose={leave} title={asking?.remedy} size={520}>
      <p>{asking?.message}</p>
      <p>
        <Button data-autofocus onClick={leave} variant="default">
          Leave it
        </Button>{" "}
        <Button onClick={undoOfOthers}>Undo</Button>
      </p>
    </Modal>
  );
}
