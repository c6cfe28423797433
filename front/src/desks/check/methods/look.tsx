/** Its rung: what eyes, hands and nose find. */
import { SIGNS, CORROSION } from "../../../kit/words";
import { small } from "../../../language/catalogue";
import { t } from "../../../language/t";
import { LookForm } from "../LookForm";
import type { Rung } from "./rung";

const LEVELS_SEEN = [
  ["plates_bare", t("plates bare")],
  ["low", t("level low")],
  ["over", t("over the mark")],
] as const;

export const RUNG: Rung<"look"> = {
  letter: "L",
  quiet: t("case, posts, smell, level"),
  Form: LookForm,
  summary: (reading) => {
    const seen = [...(reading.marks ?? []).map((mark) => SIGNS[mark.sign])];
    if (reading.corrosion && reading.corrosion !== "none")
      seen.push(t("{0} corrosion", small(CORROSION[reading.corrosion])));
    for (const [level, words] of LEVELS_SEEN) {
      const count = (reading.levels ?? []).filter((one) => one === level).length;
      if (count) seen.push(t("{0} in {1}", words, count));
    }
    if (reading.eye) seen.push(t("eye {0}", reading.eye));
    return seen.length ? <b>{seen.join(", ")}</b> : t("Nothing wrong");
  },
};
