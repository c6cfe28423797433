/** What a look says: signs with their places, corrosion, levels, the eye; and what of the look before it takes back. */
import type { Schema } from "../../api/client";

type Look = Schema["Look"];
export type Mark = Schema["Mark"];

/** What a look says, as it stands in the form. */
export interface Seen {
  marks: Mark[];
  corrosion: Schema["Corrosion"];
  levels: Schema["Level"][];
  eye: Schema["Eye"] | "none";
  reason: string;
}

export const signsOf = (look: Look | null): Seen => ({
  marks: look?.marks ?? [],
  corrosion: look?.corrosion ?? "none",
  levels: look?.levels ?? [],
  eye: look?.eye ?? "none",
  reason: "",
});

export const bodyOf = ({ marks, corrosion, levels, eye, reason }: Seen) => ({
  marks,
  corrosion,
  levels,
  eye: eye === "none" ? null : eye,
  ...(reason.trim() ? { reason } : {}),
});

export const isTouched = ({ marks, corrosion, levels, eye }: Seen) =>
  marks.length > 0 || corrosion !== "none" || levels.length > 0 || eye !== "none";

/** Hazards of the look before that are not seen any more: they are taken back with a reason. */
export const signsGone = (before: Seen, { marks }: Seen, hazards: ReadonlySet<string>) =>
  before.marks.filter((mark) => hazards.has(mark.sign) && !marks.some((other) => other.sign === mark.sign));

/** Where the next sign is put until somebody touches its place: beside those that are there. */
export const apart = (marks: Mark[]) => ({
  across: 0.16 + (marks.length % 4) * 0.22,
  down: marks.length < 4 ? 0.78 : 0.45,
});
