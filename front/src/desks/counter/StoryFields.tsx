/** How it came, what is wrong, what it is used for, and whose it is. */
import { Choice, Entry } from "../../kit/parts";
import { Pick } from "../../kit/Pick";
import { CAME_IN, COMPLAINTS, USES } from "../../kit/words";
import { Row } from "./layout";
import type { Writing } from "./takeIn";

export function StoryFields({ form }: { form: Writing }) {
  const { story, tell, wrong } = form;
  const { context } = story;
  return (
    <>
      <Choice
        label="How it came"
        value={context.came_in ?? null}
        words={CAME_IN}
        onChange={(came_in) => tell({ context: { ...context, came_in } })}
      />
      <Choice
        label="What is wrong"
        value={context.complaint ?? null}
        words={COMPLAINTS}
        onChange={(complaint) => tell({ context: { ...context, complaint } })}
      />
      <Choice
        label="What it is used for"
        value={context.use ?? null}
        words={USES}
        onChange={(use) => tell({ context: { ...context, use } })}
      />
      <Row $columns="1fr auto">
        <Pick
          label="Car, if known"
          value={story.car === null ? null : String(story.car)}
          onChange={form.pickCar}
          options={form.cars.map((one) => ({ id: String(one.id), name: one.name, note: one.years }))}
          {...(form.isLong ? { onType: form.typeCar } : {})}
          placeholder="type make or model"
          problem={wrong("vehicle_id")}
        />
        <Choice
          label="Stop-start"
          value={context.stop_start_car ? "yes" : "no"}
          words={{ no: "No", yes: "Yes" }}
          onChange={(answer) => tell({ context: { ...context, stop_start_car: answer === "yes" } })}
        />
      </Row>
      <Row $columns="1.3fr 1fr 0.9fr">
        <Entry
          label="Customer"
          value={story.customer}
          onChange={(customer) => tell({ customer })}
          numeric={false}
          problem={wrong("customer_name")}
        />
        <Entry
          label="Phone"
          value={story.phone}
          onChange={(phone) => tell({ phone })}
          numeric={false}
          problem={wrong("customer_phone")}
        />
        <Entry
          label="Plate"
          value={story.plate}
          onChange={(plate) => tell({ plate })}
          numeric={false}
          problem={wrong("customer_plate")}
        />
      </Row>
    </>
  );
}
