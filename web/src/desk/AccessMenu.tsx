/** Who may come in: signing out, and renewing the address that one signs in with. */
import { Button, Menu, Modal, TextInput } from "@mantine/core";
import { useState } from "react";
import { access, renewAddress, setName, signOut } from "../api/client";

export function AccessMenu() {
  const [address, setAddress] = useState<string | null>(null);
  const [failure, setFailure] = useState("");
  const [left, setLeft] = useState(false);
  const [name, setNameShown] = useState<string | null>(null);
  const told = (error: unknown) => setFailure(error instanceof Error ? error.message : String(error));
  return (
    <>
      <Menu position="bottom-end" transitionProps={{ duration: 0 }}>
        <Menu.Target>
          <Button variant="subtle" color="gray">
            Access
          </Button>
        </Menu.Target>
        <Menu.Dropdown>
          <Menu.Item onClick={() => access().then((a) => setNameShown(a.name), told)}>Your name…</Menu.Item>
          <Menu.Item onClick={() => signOut().then(() => setLeft(true), told)}>Sign out</Menu.Item>
          <Menu.Item onClick={() => renewAddress().then(setAddress, told)}>Renew the address</Menu.Item>
        </Menu.Dropdown>
      </Menu>
      <NameDialog
        name={name}
        onClose={() => setNameShown(null)}
        onSet={(chosen) => setName({ name: chosen }).then(() => setNameShown(null), told)}
      />
      {failure && <span role="alert">{failure}</span>}
      <Modal opened={left} onClose={() => location.reload()} title="You are signed out">
        <p className="why">Open the address that ./eddyfield printed to sign in again.</p>
      </Modal>
      <Modal opened={address !== null} onClose={() => setAddress(null)} title="The new address" size={560}>
        <p className="why">Whoever signed in with the old one is signed out. This window stays signed in.</p>
        <TextInput
          aria-label="The new address"
          readOnly
          value={address ?? ""}
          onFocus={(event) => event.currentTarget.select()}
        />
      </Modal>
    </>
  );
}

interface NameProps {
  name: string | null;
  onClose: () => void;
  onSet: (name: string) => void;
}

function NameDialog({ name, onClose, onSet }: NameProps) {
  return (
    <Modal opened={name !== null} onClose={onClose} title="Your name">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onSet(String(new FormData(event.currentTarget).get("name")));
        }}
      >
        <p className="why">Other windows on a scene are told of your changes under it.</p>
        <TextInput
          aria-label="Your name"
          name="name"
          defaultValue={name ?? ""}
          maxLength={60}
          data-autofocus
        />
        <p>
          <Button type="submit">Use it</Button>
        </p>
      </form>
    </Modal>
  );
}
