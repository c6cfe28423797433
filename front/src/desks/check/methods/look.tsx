/** Its rung: what eyes, hands and nose find. */
import { SIGNS, CORROSION } from "../../../kit/words";
import { small } from "../../../language/catalogue";
import { t } from "../../../language/t";
import { LookForm } from "../LookForm";
import type { Rung } from "./rung";

const LEVELS_SEEN = [
  ["plates_bare", t("screens.plates_bare")],
  ["low", t("look.level_low_2")],
  ["over", t("look.over_the_mark")],
] as const;

export const RUNG: Rung<"look"> = {
  letter: "L",
  quiet: t("look.case_posts_smell_level"),
  Form: LookForm,
  summary: (reading) => {
    const seen = [...(reading.marks ?? []).map((mark) => SIGNS[mark.sign])];
    if (reading.corrosion && reading.corrosion !== "none")
      seen.push(t("look.corrosion", { corrosion: small(CORROSION[reading.corrosion]) }));
    for (const [level, words] of LEVELS_SEEN) {
      const count = (reading.levels ?? []).filter((one) => one === level).length;
      if (count) seen.push(t("look.in", { words, count }));
    }
    if (reading.eye) seen.push(t("look.eye", { eye: reading.eye }));
    return seen.length ? <b>{seen.join(", ")}</b> : t("screens.nothing_wrong");
  },
};
