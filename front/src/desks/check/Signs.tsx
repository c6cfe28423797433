/** The signs of a look: each touched, or pressed by its letter. */
import { ToggleButton, ToggleButtonGroup } from "react-aria-components";
import styled from "styled-components";
import type { Schema } from "../../api/client";
import { isFree, useKeydown } from "../../kit/letters";
import { chipStyle } from "../../kit/parts";
import { SIGNS } from "../../kit/words";
import { t } from "../../language/t";
import type { Mark } from "./seen";

type Sign = Schema["Sign"];

const Toggles = styled(ToggleButtonGroup)`
  display: flex;
  flex-wrap: wrap;
  gap: 5px;
`;
const Toggle = styled(ToggleButton)<{ $hazard: boolean; $asked: boolean }>`
  ${chipStyle}
  padding: 2px 8px;
  gap: 3px;
  font-size: 16px;
  sup {
    font-size: 12px;
    font-weight: 500;
    opacity: 0.75;
  }
  ${({ $asked }) => $asked && "border-style: double; border-color: var(--copper);"}
  ${({ $hazard }) => $hazard && "border-style: dashed; border-color: var(--ink);"}
`;

const SideSigns = styled(Toggles)`
  flex: 1 1 250px;
  align-content: start;
`;

/** Pressed with shift in the open look. */
export const SIGN_LETTERS: Record<Sign, string> = {
  bulged: "B", cracked: "K", leaking: "L", hot: "H", smelling_of_rotten_egg: "E", frozen: "F", melted_post: "M",
  loose_post: "P", hold_down_missing: "N", hold_down_loose: "J", thin_post: "T", vent_tube_off: "V", tray_rusted: "R",
  wet_top: "W", sticker_gone: "S",
}; // prettier-ignore
/** The sign that is gone once a job is done. */
const SIGN_OF_JOB: Record<string, Sign> = {
  fit_hold_down: "hold_down_missing",
  tighten_hold_down: "hold_down_loose",
  shim_post: "thin_post",
  vent_tube: "vent_tube_off",
  mend_tray: "tray_rusted",
};
interface SignsProps {
  marks: Mark[];
  hazards: ReadonlySet<Sign>;
  job: Schema["Job"] | undefined;
  onChoose: (signs: Set<string>) => void;
  onToggle: (sign: Sign) => void;
}

export function Signs({ marks, hazards, job, onChoose, onToggle }: SignsProps) {
  useKeydown((event) => {
    const letter = isFree(event, true) ? event.key.toUpperCase() : "";
    const sign = (Object.keys(SIGN_LETTERS) as Sign[]).find((one) => SIGN_LETTERS[one] === letter);
    if (!sign) return;
    event.preventDefault();
    onToggle(sign);
  });

  return (
    <SideSigns
      selectionMode="multiple"
      aria-label={t("signs.signs_pick_one_then_touch_where_it_is")}
      selectedKeys={new Set(marks.map((mark) => mark.sign))}
      onSelectionChange={(keys) => onChoose(new Set([...keys].map(String)))}
    >
      {Object.entries(SIGNS).map(([sign, word]) => (
        <Toggle
          key={sign}
          id={sign}
          $hazard={hazards.has(sign as Sign)}
          $asked={job !== undefined && SIGN_OF_JOB[job.key ?? ""] === sign}
        >
          {word} <sup aria-hidden>⇧{SIGN_LETTERS[sign as Sign]}</sup>
        </Toggle>
      ))}
    </SideSigns>
  );
}
