/** What the label says. Number pad first, defaults that are usually right. */
import type { Schema } from "../../api/client";
import { DayField } from "../../kit/DayField";
import { Choice } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { Pick } from "../../kit/Pick";
import { Sentence, Spoken, Word, WordChoices } from "../../kit/Spoken";
import { CHEMISTRIES, STANDINGS } from "../../kit/words";
import { Fault, Row } from "./layout";
import { SCALES, type Writing } from "./takeIn";
import { locale, small } from "../../language/catalogue";
import { t } from "../../language/t";
import { Soft } from "../../kit/parts";
import { wordOf } from "../../language/speak";

const CAPS = {
  unknown: t("label_fields.not_looked_for"),
  yes: t("label_fields.open"),
  no: t("label_fields.sealed"),
} as const;
const RATED = { printed: t("label_fields.as_printed_on_it"), assumed: t("label_fields.assumed") } as const;
const VOLTS = { v12: "12 V", v6: "6 V" } as const;

/** A month of the calendar: a day without a time, the same in every zone. */
const monthWords = (iso: string) =>
  new Date(iso).toLocaleDateString(locale(), { month: "short", year: "numeric", timeZone: "UTC" });

interface Props {
  form: Writing;
  known: Schema["Reference"];
}

export function LabelFields({ form, known }: Props) {
  const { label, change, story, tell, months, madeOn, wrong } = form;
  const { scale, group, line } = label;
  const rated = label.ratedAssumed ? "assumed" : "printed";
  const definition = known.scales[scale];
  const size = known.sizes.find((one) => one.code === group);
  // a battery without a starting figure is rated by what it stores
  const asksReserve = label.rated.trim() === "" || label.reserve !== "";
  const sizeVolts = size ? (size.nominal_volts === 6 ? "v6" : "v12") : null;
  return (
    <>
      <h2>{t("label_fields.what_else_the_label_says")}</h2>
      <Spoken label={t("label_fields.the_label_in_words")}>
        <Sentence>
          <Word
            name="volts"
            letter="V"
            label={t("screens.volts")}
            says={VOLTS[label.volts]}
            odd={sizeVolts !== null && sizeVolts !== label.volts}
          />{" "}
          <Word
            name="chemistry"
            letter="H"
            label={t("label_fields.chemistry")}
            says={CHEMISTRIES[label.chemistry].replace(/^(Flooded|Low-maintenance|Calcium|Gel)$/, (word) =>
              small(word),
            )}
          />
          {t("label_fields.rated_in")}{" "}
          <Word
            name="scale"
            letter="S"
            label={t("label_fields.scale_of_the_rated_figure")}
            says={scale}
            odd={scale !== "CCA"}
          />
          ,{" "}
          <Word
            name="rating_source"
            letter="F"
            label={t("label_fields.whose_word_the_rated_figure_is")}
            says={RATED[rated]}
            odd={label.ratedAssumed}
          />
          {t("label_fields.caps")}{" "}
          <Word name="caps" letter="K" label={t("label_fields.caps_2")} says={small(CAPS[label.caps])} />
        </Sentence>
        <WordChoices
          name="volts"
          label={t("screens.volts")}
          value={label.volts}
          words={VOLTS}
          onChange={(volts) => change({ volts })}
        />
        <WordChoices
          name="chemistry"
          label={t("label_fields.chemistry")}
          value={label.chemistry}
          words={CHEMISTRIES}
          onChange={(chemistry) => change({ chemistry, chemistryRead: true })}
        />
        <WordChoices
          name="scale"
          label={t("label_fields.scale_of_the_rated_figure")}
          value={scale}
          words={SCALES}
          onChange={(picked) => change({ scale: picked })}
        />
        <WordChoices
          name="rating_source"
          label={t("label_fields.whose_word_the_rated_figure_is")}
          value={rated}
          words={RATED}
          onChange={(source) => change({ ratedAssumed: source === "assumed" })}
        />
        <WordChoices
          name="caps"
          label={t("label_fields.caps_2")}
          value={label.caps}
          words={CAPS}
          onChange={(caps) => change({ caps })}
        />
      </Spoken>
      {scale !== "CCA" && definition && (
        <Soft as="p">
          {t("label_fields.about_of_the_cca", {
            scale,
            definition: definition.definition,
            amps_per_sae_cca_amp: definition.amps_per_sae_cca_amp,
            relative_spread: Math.round(definition.relative_spread * 100),
            standing: STANDINGS[definition.standing] ?? definition.standing,
          })}
        </Soft>
      )}
      {wrong("battery.rating.scale") && <Fault role="alert">{wrong("battery.rating.scale")}</Fault>}
      <Row $columns={asksReserve ? "1.1fr 0.8fr 0.8fr 1fr" : "1fr 1fr 1fr"}>
        <Pick
          label={t("screens.group_or_box_size")}
          value={size ? group : null}
          text={group ?? ""}
          allowsOther={(text) => change({ group: text.trim() === "" ? null : text, groupRead: text.trim() !== "" })}
          onChange={(code) => {
            const picked = known.sizes.find((one) => one.code === code);
            if (picked)
              change({ group: picked.code, groupRead: true, volts: picked.nominal_volts === 6 ? "v6" : "v12" });
          }}
          options={known.sizes.map((one) => ({
            id: one.code,
            name: one.code,
            note: `${one.length_mm} × ${one.width_mm} × ${one.height_mm}, + ${wordOf(one.positive_side)}`,
          }))}
          placeholder={t("screens.48_24f_ln3")}
          name="battery.group_code"
          enterPicks
        />
        <Entry
          label={t("screens.capacity")}
          value={label.ah}
          onChange={(ah) => change({ ah })}
          unit="Ah"
          name="battery.capacity_ah_20h"
        />
        {asksReserve && (
          <Entry
            label={t("screens.reserve")}
            value={label.reserve}
            onChange={(reserve) => change({ reserve })}
            unit={t("screens.min_2")}
            name="battery.reserve_minutes"
          />
        )}
        <Entry
          label={t("label_fields.date_code")}
          value={label.made}
          onChange={(made) => change({ made, madePicked: null })}
          numeric={false}
          placeholder="C5, 0325"
          name="battery.made_on"
        />
      </Row>
      {months && months.length > 0 && label.made.trim() !== "" && (
        <Choice
          label={t("label_fields.made_in")}
          value={madeOn}
          words={Object.fromEntries(
            months
              .slice(0, 4)
              .map((one) => [one.made_on, `${monthWords(one.made_on)}${one.plausibility < 0.5 ? " ?" : ""}`]),
          )}
          onChange={(madePicked) => change({ madePicked })}
        />
      )}
      <Row $columns="1.2fr 1fr 1fr">
        <Pick
          label={t("screens.line")}
          value={known.lines.includes(line) ? line : null}
          text={line}
          allowsOther={(line) => change({ line })}
          onChange={(id) => id && change({ line: id })}
          options={known.lines.map((one) => ({ id: one, name: one }))}
          placeholder={t("label_fields.as_printed")}
        />
        <DayField
          label={t("label_fields.sold_by_us_on")}
          value={story.sold}
          onChange={(sold) => tell({ sold })}
          name="sold_on"
        />
        <Entry
          label={t("label_fields.serial")}
          value={label.serial}
          onChange={(serial) => change({ serial })}
          numeric={false}
          name="battery.serial"
        />
      </Row>
    </>
  );
}
