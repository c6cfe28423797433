/** The take-in of a battery, to be written anew; the earlier one stays in its records. */
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api, asked, type Schema } from "../../api/client";
import { battery, learned } from "../../api/queries";
import { Empty, Page } from "../../kit/parts";
import { TakeInForm } from "./TakeInForm";

export function CorrectDesk({ tag, store }: { tag: number; store: Schema["StoreView"] }) {
  const navigate = useNavigate();
  const { data: view, isError } = useQuery(battery(tag));
  if (isError && !view)
    return (
      <Page>
        <Empty>
          <h2>No battery here carries tag {tag}</h2>
        </Empty>
      </Page>
    );
  if (!view) return <Page />;
  return (
    <Page>
      <TakeInForm
        store={store}
        start={{
          battery: view.battery,
          context: view.context,
          sold_on: view.sold_on,
          customer_name: view.customer_name,
          customer_phone: view.customer_phone,
          vehicle_id: view.car?.id ?? null,
        }}
        title={`Correct the label of ${tag}`}
        action="Write the correction"
        onWrite={async (written) => {
          await learned(await asked(api.PUT("/api/batteries/{tag}", { params: { path: { tag } }, body: written })));
          await navigate(`/check/${tag}`);
        }}
      />
    </Page>
  );
}
