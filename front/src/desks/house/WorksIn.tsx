/** The other stores somebody works in, as their owner lets them. */
import { useQuery } from "@tanstack/react-query";
import { api, answerOf, type Schema } from "../../api/client";
import { put } from "../../api/live";
import { queries, storesOf } from "../../api/queries";
import { Button, Soft } from "../../kit/parts";
import { Acts, Fault } from "../goods/parts";
import { useWrite } from "../goods/useWrite";
import { t } from "../../language/t";

export function WorksIn({ row }: { row: Schema["PersonRow"] }) {
  const { data } = useQuery(storesOf(row.id));
  const give = useWrite(
    (body: Schema["GiveStore"], named) =>
      answerOf(
        api.PUT("/api/house/people/{staff_id}/stores", { params: { ...named, path: { staff_id: row.id } }, body }),
      ),
    (answer) => {
      put(storesOf(row.id).queryKey, answer);
      void queries.invalidateQueries({ queryKey: ["stores"] });
    },
  );
  const others = data?.filter(({ here }) => !here) ?? [];
  if (!others.length) return null;
  const fault = give.of("store_id") ?? give.beside("store_id");
  return (
    <section aria-label={t("works_in.also_works_in")}>
      <Soft>{t("works_in.also_works_in_2")}</Soft>
      <Acts>
        {others.map((store) => (
          <Button
            key={store.id}
            aria-pressed={store.works}
            $tone={store.works ? "strong" : undefined}
            isDisabled={give.pending}
            onPress={() => give.write({ store_id: store.id, works: !store.works })}
          >
            {store.name}
          </Button>
        ))}
      </Acts>
      {fault && <Fault role="alert">{fault}</Fault>}
    </section>
  );
}
