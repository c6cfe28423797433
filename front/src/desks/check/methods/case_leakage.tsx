/** Its rung: volts over the case. */
import { t } from "../../../language/t";
import { LeakageForm } from "../LeakageForm";
import { big, type Rung } from "./rung";

export const RUNG: Rung<"case_leakage"> = {
  letter: "E",
  quiet: t("a wet dirty top"),
  Form: LeakageForm,
  summary: (reading) => {
    return big(
      reading.volts.toFixed(1),
      t(
        "V on the case{0}{1}",
        (reading.spots?.length ?? 0) > 1 ? t(", worst of {0} places", reading.spots?.length) : "",
        reading.cleaned ? t(", cleaned before") : "",
      ),
    );
  },
};
