/** Changes that the server did not take: what each was, why not, and what is to become of it. */
import { Button, Modal } from "@mantine/core";
import { giveUp, tryAgain } from "../state/edits";
import { setSession, useSession } from "../state/session";

export function RefusedDialog() {
  const open = useSession((s) => s.refusedOpen);
  const refused = useSession((s) => s.refused);
  const close = () => setSession({ refusedOpen: false });
  const each = (decide: (id: string) => void) => {
    for (const { id } of refused) decide(id);
    close();
  };
  return (
    <Modal opened={open} onClose={close} title="Changes that were not taken" size={640}>
      <p className="why">
        They were made on a state of the scene that has changed since. Tried again, each is made on the scene
        as it is now.
      </p>
      <ul className="readings">
        {refused.map(({ id, edit, reason }) => (
          <li key={id}>
            <span className="what">
              <b>{typeof edit === "string" ? edit : edit.edit}</b>
              <span className="soft">{reason}</span>
            </span>
            <Button onClick={() => tryAgain(id)}>Try again</Button>
            <Button variant="default" onClick={() => giveUp(id)}>
              Give up
            </Button>
          </li>
        ))}
        {!refused.length && <li className="empty">Nothing is left: all is stored or given up.</li>}
      </ul>
      {refused.length > 1 && (
        <p>
          <Button onClick={() => each(tryAgain)}>Try all again, in order</Button>{" "}
          <Button variant="default" onClick={() => each(giveUp)}>
            Give all up
          </Button>
        </p>
      )}
    </Modal>
  );
}
