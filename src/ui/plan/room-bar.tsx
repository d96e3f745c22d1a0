/** A load against a room: full to the room, and beyond it in alarm behind a mark. */
export function RoomBar({ load, room }: { load: number; room: number | null }) {
  const whole = Math.max(load, room ?? load, 0.01);
  const part = (of: number) => `${(100 * of) / whole}%`;
  const over = room !== null && load > room;
  return (
    <span className="plan-bar plan-room" data-over={over || undefined} aria-hidden="true">
      <span style={{ width: part(load) }} />
      {over && <i style={{ left: part(room) }} />}
    </span>
  );
}
