/** What the readings ask of headroom and lead room, in every camera of the scene. */
import { edit } from "../../../state/edits";
import { useSession } from "../../../state/session";
import { Fields, NumberField } from "../../../widgets/NumberField";

export function WantedRoom() {
  const room = useSession((s) => s.scene!.room);
  const set = (changed: Partial<typeof room>) => edit({ edit: "want room", room: { ...room, ...changed } });
  const share = (label: string, name: keyof typeof room) => (
    <NumberField
      label={label}
      value={room[name] * 100}
      unit="%"
      digits={1}
      onSet={(v) => set({ [name]: v / 100 })}
    />
  );
  return (
    <>
      <h4>Room wanted in the scene</h4>
      <Fields columns={3}>
        {share("headroom from", "headroom_least")}
        {share("to", "headroom_most")}
        {share("lead room from", "lead_least")}
      </Fields>
    </>
  );
}
