import type { Viewer } from "@/server/people/viewer";

/** People of the demo world, as viewers. */
export const INES: Viewer = { personId: "ines", name: "Ines Dahl", administrator: false };
export const NOOR: Viewer = { personId: "noor", name: "Noor Bakri", administrator: false };
export const IVO: Viewer = { personId: "ivo", name: "Ivo Sandell", administrator: false };
export const TOMAS: Viewer = { personId: "tomas", name: "Tomas Kerr", administrator: false };
export const GRETA: Viewer = { personId: "greta", name: "Greta Falk", administrator: true };
/** Observer in TIX and GATE, a stranger to the members-only TIDE. */
export const ARTHUR: Viewer = { personId: "arthur", name: "Arthur Quill", administrator: false };
/** Signed in, member of GATE only. */
export const OSKAR: Viewer = { personId: "oskar", name: "Oskar Thorne", administrator: false };
