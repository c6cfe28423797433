/** The counter: take a battery in; it is given a tag and goes to its check. */
import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, asked, type Schema } from "../../api/client";
import { shelf } from "../../api/queries";
import { Page } from "../../kit/parts";
import { TakeInForm } from "./TakeInForm";

export function CounterDesk({ store }: { store: Schema["StoreView"] }) {
  const navigate = useNavigate();
  const client = useQueryClient();
  return (
    <Page>
      <TakeInForm
        store={store}
        start={null}
        title="Take in"
        action="Take it in, give it a tag"
        onWrite={async (written) => {
          const { tag } = await asked(api.POST("/api/batteries", { body: written }));
          void client.invalidateQueries({ queryKey: shelf.queryKey });
          await navigate(`/check/${tag}`);
        }}
      />
    </Page>
  );
}
