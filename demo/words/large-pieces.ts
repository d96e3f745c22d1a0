import type { ProjectKey } from "../people";

/** Voyages of a project, and the charter that they sail under; the last voyage has not begun. */
interface LargePieces {
  charter: string;
  voyages: string[];
}

export const LARGE_PIECES: Record<ProjectKey, LargePieces> = {
  TIX: {
    charter: "Nobody queues for a ticket any more",
    voyages: [
      "Tickets that work without a connection",
      "Refunds by themselves after a storm",
      "Season tickets without paper",
      "One ticket for bus and boat",
    ],
  },
  GATE: {
    charter: "Every quay opens on time, in any weather",
    voyages: ["Gates that read tickets in fog", "Quay staff see every queue", "Gates without cash"],
  },
  TIDE: {
    charter: "A timetable that people can trust",
    voyages: [
      "Cancellations told before people set out",
      "The winter timetable",
      "Boards on every island",
    ],
  },
};
