/** The rated figure, whose it is, what is wrong, and how it came: in the order people speak. */
import { Choice } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { Pick } from "../../kit/Pick";
import { Sentence, Spoken, Word, WordChoices } from "../../kit/Spoken";
import { CAME_IN, COMPLAINTS, USES } from "../../kit/words";
import { KnownPeople } from "./KnownPeople";
import { Row } from "./layout";
import { PromiseChoices, promiseWords } from "./Promised";
import type { Writing } from "./takeIn";
import { small } from "../../language/catalogue";
import { t } from "../../language/t";

/** Nothing is preset: who was told nothing leaves it open. */
const ANSWERS = Object.fromEntries(Object.entries(COMPLAINTS).filter(([said]) => said !== "not_said")) as Omit<
  typeof COMPLAINTS,
  "not_said"
>;
const STOP_START = { no: t("story_fields.no_stop_start"), yes: "stop-start" } as const;

export function StoryFields({ form }: { form: Writing }) {
  const { label, change, story, tell } = form;
  const { context } = story;
  const came = context.came_in ?? "carried_in";
  const use = context.use ?? "private";
  const stopStart = context.stop_start_car ? "yes" : "no";
  return (
    <>
      <Entry
        label={t("story_fields.rated_figure")}
        value={label.rated}
        onChange={(rated) => change({ rated })}
        unit={label.scale === "CCA" ? "CCA" : label.scale}
        big
        autoFocus
        name="battery.rating.amps"
        placeholder={t("story_fields.none_on_it")}
      />
      <Row $columns="1.3fr 1fr 0.9fr">
        <Entry
          label={t("story_fields.customer")}
          value={story.customer}
          onChange={(customer) => tell({ customer, customerId: null })}
          numeric={false}
          name="customer_name"
        />
        <Entry
          label={t("screens.phone")}
          value={story.phone}
          onChange={(phone) => tell({ phone })}
          numeric={false}
          name="customer_phone"
        />
        <Entry
          label={t("screens.plate")}
          value={story.plate}
          onChange={(plate) => tell({ plate })}
          numeric={false}
          name="customer_plate"
        />
      </Row>
      <KnownPeople form={form} />
      <Choice
        label={t("story_fields.what_is_wrong")}
        value={context.complaint === "not_said" ? null : context.complaint}
        words={ANSWERS}
        onChange={(complaint) => tell({ context: { ...context, complaint } })}
      />
      <Spoken label={t("story_fields.how_it_came")}>
        <Sentence>
          <Word name="came_in" label={t("story_fields.how_it_came")} says={small(CAME_IN[came])} letter="A" />
          {t("story_fields.use_is")}{" "}
          <Word name="use" label={t("story_fields.what_it_is_used_for")} says={small(USES[use])} letter="U" />
          {t("story_fields.and_so_on")}{" "}
          <Word name="stop_start_car" label={t("screens.stop_start_2")} says={STOP_START[stopStart]} letter="P" />
          {form.isNew && (
            <>
              ,{" "}
              <Word
                name="promised_at"
                label={t("screens.when_it_was_promised")}
                says={promiseWords(story)}
                letter="T"
              />
            </>
          )}
        </Sentence>
        <WordChoices
          name="came_in"
          label={t("story_fields.how_it_came")}
          value={came}
          words={CAME_IN}
          onChange={(came_in) => tell({ context: { ...context, came_in } })}
        />
        <WordChoices
          name="use"
          label={t("story_fields.what_it_is_used_for")}
          value={use}
          words={USES}
          onChange={(picked) => tell({ context: { ...context, use: picked } })}
        />
        <WordChoices
          name="stop_start_car"
          label={t("screens.stop_start_2")}
          value={stopStart}
          words={{ no: t("screens.no"), yes: t("screens.yes") }}
          onChange={(answer) => tell({ context: { ...context, stop_start_car: answer === "yes" } })}
        />
        {form.isNew && <PromiseChoices form={form} />}
      </Spoken>
      <Pick
        label={t("story_fields.car_if_known")}
        value={story.car === null ? null : String(story.car)}
        onChange={form.pickCar}
        options={form.cars.map((one) => ({ id: String(one.id), name: one.name, note: one.years }))}
        {...(form.isLong ? { onType: form.typeCar } : {})}
        placeholder={t("story_fields.type_make_or_model")}
        name="vehicle_id"
      />
    </>
  );
}
