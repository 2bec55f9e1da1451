/** The line at the top: where one is, whether everything is saved, undo and redo. */
import { ActionIcon, Button, Menu, Tooltip, useMantineColorScheme } from "@mantine/core";
import {
  IconArrowBackUp,
  IconArrowForwardUp,
  IconHelp,
  IconLayoutColumns,
  IconMoon,
  IconSun,
} from "@tabler/icons-react";
import { undoOrRedo } from "../state/edits";
import { setSession, useSession } from "../state/session";
import { goToScene, within } from "../state/within";
import { ARRANGEMENTS, arrange } from "./arrangements";
import { NoticeLine } from "./NoticeLine";
import { Brand } from "../widgets/Brand";

interface HeaderProps {
  onLeave: () => void;
  onOpenScene: (id: string) => void;
}

export function Header({ onLeave, onOpenScene }: HeaderProps) {
  const sequence = useSession((s) => s.sequence);
  const scene = useSession((s) => s.scene);
  const { colorScheme, toggleColorScheme } = useMantineColorScheme();
  const around = within();
  return (
    <nav className="header" aria-label="The scene">
      <Brand onClick={onLeave} />
      <div className="crumbs">
        <button className="link" onClick={onLeave}>
          Desk
        </button>
        <span aria-hidden="true"> / </span>
        {scene?.around && around && (
          <>
            <button className="link" onClick={() => goToScene(around.scene_id)}>
              {scene.around}
            </button>
            <span aria-hidden="true"> / </span>
          </>
        )}
        {sequence && (
          <>
            {sequence.name}
            <span aria-hidden="true"> / </span>
          </>
        )}
      </div>
      <h1>{scene?.name ?? "…"}</h1>
      {sequence && scene && (
        <button
          className="link by-itself"
          onClick={() => onOpenScene(scene.id)}
          title="Open the scene alone; the browser goes back to the sequence"
        >
          by itself
        </button>
      )}
      <NoticeLine />
      <RefusedButton />
      <SavedState />
      <HeaderButton
        label={scene?.undo ? `Undo ${scene.undo} (Ctrl Z)` : "Nothing to undo"}
        off={!scene?.undo}
        run={() => undoOrRedo("undo")}
      >
        <IconArrowBackUp size={18} />
      </HeaderButton>
      <HeaderButton
        label={scene?.redo ? `Redo ${scene.redo} (Ctrl Shift Z)` : "Nothing to redo"}
        off={!scene?.redo}
        run={() => undoOrRedo("redo")}
      >
        <IconArrowForwardUp size={18} />
      </HeaderButton>
      <PanesMenu />
      <HeaderButton label={colorScheme === "dark" ? "Paper theme" : "Dim theme"} run={toggleColorScheme}>
        {colorScheme === "dark" ? <IconSun size={18} /> : <IconMoon size={18} />}
      </HeaderButton>
      <HeaderButton label="Keys (?)" run={() => setSession({ helpOpen: true })}>
        <IconHelp size={18} />
      </HeaderButton>
    </nav>
  );
}

function PanesMenu() {
  return (
    <Menu position="bottom-end">
      <Menu.Target>
        <ActionIcon
          variant="subtle"
          color="gray"
          aria-label="Arrange the panes"
          title="Arrange the panes (Q)"
        >
          <IconLayoutColumns size={18} />
        </ActionIcon>
      </Menu.Target>
      <Menu.Dropdown>
        {ARRANGEMENTS.map(({ name }, index) => (
          <Menu.Item key={name} onClick={() => arrange(index)}>
            {name}
          </Menu.Item>
        ))}
      </Menu.Dropdown>
    </Menu>
  );
}

function SavedState() {
  const revision = useSession((s) => s.scene?.revision ?? 0);
  const waiting = useSession((s) => s.waiting);
  const connected = useSession((s) => s.connected);
  const signedOut = useSession((s) => s.signedOut);
  if (signedOut)
    return (
      <span className="unkeyed" role="status">
        signed out · {waiting} kept here; open the address that ./eddyfield printed, in any window
      </span>
    );
  if (!connected)
    return (
      <span className="unkeyed" role="status">
        no connection · {waiting} kept here, sent when it is back
      </span>
    );
  return (
    <span className="soft" role="status">
      {waiting ? "saving" : "saved"} · rev {revision}
    </span>
  );
}

function RefusedButton() {
  const count = useSession((s) => s.refused.length);
  if (!count) return null;
  return (
    <Button variant="default" onClick={() => setSession({ refusedOpen: true })}>
      {count === 1 ? "1 change was" : `${count} changes were`} not taken
    </Button>
  );
}

interface ButtonProps {
  label: string;
  off?: boolean;
  run: () => void;
  children: React.ReactNode;
}

function HeaderButton({ label, off = false, run, children }: ButtonProps) {
  return (
    <Tooltip label={label} openDelay={400}>
      <ActionIcon variant="subtle" color="gray" aria-label={label} disabled={off} onClick={run}>
        {children}
      </ActionIcon>
    </Tooltip>
  );
}
