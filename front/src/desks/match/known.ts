/** What is known of the battery that is looked for, as it is typed; kept while one walks away and comes back. */
import { useState } from "react";
import type { Schema } from "../../api/client";
import { numberOf } from "../../kit/units";

export interface Tape {
  of: "tray" | "old";
  length: string;
  width: string;
  height: string;
  side: "left" | "right" | "unknown";
  post: Schema["Measured"]["post"] | "unknown";
  ledge: Schema["Measured"]["ledge"] | "unknown";
  /** How far the tape may be off; the house's own where nothing is typed. */
  off: string;
}

export interface Known {
  carText: string;
  cars: Schema["ListedCar"][];
  vehicleId: number | null;
  code: string;
  tapeOpen: boolean;
  tape: Tape;
  needs: Schema["Need"][];
  cable: string;
  typed: Schema["Requirement"] | null;
}

const NOTHING: Known = {
  carText: "",
  cars: [],
  vehicleId: null,
  code: "",
  tapeOpen: false,
  tape: { of: "tray", length: "", width: "", height: "", side: "unknown", post: "unknown", ledge: "unknown", off: "" },
  needs: [],
  cable: "",
  typed: null,
};

const byTag = new Map<number | null, Known>();

/** Forget what was typed: another person is at the counter now. */
export const forgetKnown = () => byTag.clear();

export function useKnown(tag: number | null) {
  const [known, setKnown] = useState<Known>(() => byTag.get(tag) ?? NOTHING);
  const tell = (more: Partial<Known>) =>
    setKnown((before) => {
      const next = { ...before, ...more };
      byTag.set(tag, next);
      return next;
    });
  const afresh = () => tell(NOTHING);
  return { known, tell, afresh };
}

/** The tape as it is asked, or null while it is not whole; millimetres or inches by the store. */
export function tapeBody(tape: Tape, store: Schema["StoreView"]): Schema["Measured"] | null {
  const per = store.length_unit === "in" ? 25.4 : 1;
  const [length, width, height] = [tape.length, tape.width, tape.height].map(numberOf);
  if (length == null || width == null || height == null) return null;
  const off = numberOf(tape.off);
  return {
    of: tape.of,
    length_mm: length * per,
    width_mm: width * per,
    height_mm: height * per,
    positive_side: tape.side === "unknown" ? null : tape.side,
    post: tape.post === "unknown" ? null : (tape.post ?? null),
    ledge: tape.ledge === "unknown" ? null : (tape.ledge ?? null),
    tolerance_mm: off == null ? null : off * per,
  };
}

export function askOf(known: Known, code: string, tag: number | null, store: Schema["StoreView"]): Schema["AskMatch"] {
  if (known.typed) return { tag, code: "", needs: [], requirement: known.typed };
  const measured = tapeBody(known.tape, store);
  const cable = numberOf(known.cable);
  return {
    tag,
    vehicle_id: known.vehicleId,
    code: code.trim(),
    measured,
    needs: known.needs,
    spare_cable_mm: cable === null ? null : cable * (store.length_unit === "in" ? 25.4 : 1),
  };
}

/** Whether anything is asked at all. */
export const asksAnything = (ask: Schema["AskMatch"]) =>
  ask.tag != null || ask.vehicle_id != null || !!ask.code || !!ask.measured || !!ask.requirement;
