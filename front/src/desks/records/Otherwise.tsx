/** How often the house said otherwise than it was judged, in the last year; folded, and nothing where it never did. */
import { useQuery } from "@tanstack/react-query";
import { api, answerOf } from "../../api/client";
import { OUTCOMES } from "../../kit/words";
import { Fold } from "../../kit/Fold";
import { t } from "../../language/t";

export function Otherwise() {
  const { data: found } = useQuery({ queryKey: ["own-calls"], queryFn: () => answerOf(api.GET("/api/own-calls")) });
  if (!found?.length) return null;
  return (
    <Fold>
      <summary>{t("records_desk.said_otherwise", { count: found.reduce((sum, one) => sum + one.times, 0) })}</summary>
      {found.map((one) => (
        <p key={one.judged + one.called}>
          {t("records_desk.judged_and_called", {
            judged: OUTCOMES[one.judged],
            called: OUTCOMES[one.called],
            times: one.times,
          })}
        </p>
      ))}
    </Fold>
  );
}
