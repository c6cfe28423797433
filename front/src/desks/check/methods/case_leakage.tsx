/** Its rung: volts over the case. */
import { t } from "../../../language/t";
import { LeakageForm } from "../LeakageForm";
import { big, type Rung } from "./rung";

export const RUNG: Rung<"case_leakage"> = {
  letter: "E",
  quiet: t("case_leakage.a_wet_dirty_top"),
  Form: LeakageForm,
  summary: (reading) => {
    return big(
      reading.volts.toFixed(1),
      t("case_leakage.v_on_the_case_where", {
        where:
          (reading.spots?.length ?? 0) > 1 ? t("case_leakage.worst_of_places", { count: reading.spots?.length }) : "",
        cleaned: reading.cleaned ? t("case_leakage.cleaned_before") : "",
      }),
    );
  },
};
