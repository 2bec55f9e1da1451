/** Who may come in: signing out, and renewing the address that one signs in with. */
import { Button, Menu, Modal, TextInput } from "@mantine/core";
import { useState } from "react";
import { renewAddress, signOut } from "../api/client";

export function AccessMenu() {
  const [address, setAddress] = useState<string | null>(null);
  const [failure, setFailure] = useState("");
  const [left, setLeft] = useState(false);
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
          <Menu.Item onClick={() => signOut().then(() => setLeft(true), told)}>Sign out</Menu.Item>
          <Menu.Item onClick={() => renewAddress().then(setAddress, told)}>Renew the address</Menu.Item>
        </Menu.Dropdown>
      </Menu>
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
