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
import { say, locale, small } from "../../language/catalogue";
import { t } from "../../language/t";
import { Soft } from "../../kit/parts";

const CAPS = { unknown: t("Not looked for"), yes: t("Open"), no: t("Sealed") } as const;
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
  const definition = known.scales[scale];
  const size = known.sizes.find((one) => one.code === group);
  // a battery without a starting figure is rated by what it stores
  const asksReserve = label.rated.trim() === "" || label.reserve !== "";
  const sizeVolts = size ? (size.nominal_volts === 6 ? "v6" : "v12") : null;
  return (
    <>
      <h2>{t("What else the label says")}</h2>
      <Spoken label={t("The label in words")}>
        <Sentence>
          <Word
            name="volts"
            letter="V"
            label={t("Volts")}
            says={VOLTS[label.volts]}
            odd={sizeVolts !== null && sizeVolts !== label.volts}
          />{" "}
          <Word
            name="chemistry"
            letter="H"
            label={t("Chemistry")}
            says={CHEMISTRIES[label.chemistry].replace(/^(Flooded|Low-maintenance|Calcium|Gel)$/, (word) =>
              small(word),
            )}
          />
          {t(", rated in")}{" "}
          <Word name="scale" letter="S" label={t("Scale of the rated figure")} says={scale} odd={scale !== "CCA"} />
          {t(", caps")} <Word name="caps" letter="K" label={t("Caps")} says={small(CAPS[label.caps])} />
        </Sentence>
        <WordChoices
          name="volts"
          label={t("Volts")}
          value={label.volts}
          words={VOLTS}
          onChange={(volts) => change({ volts })}
        />
        <WordChoices
          name="chemistry"
          label={t("Chemistry")}
          value={label.chemistry}
          words={CHEMISTRIES}
          onChange={(chemistry) => change({ chemistry, chemistryRead: true })}
        />
        <WordChoices
          name="scale"
          label={t("Scale of the rated figure")}
          value={scale}
          words={SCALES}
          onChange={(picked) => change({ scale: picked })}
        />
        <WordChoices
          name="caps"
          label={t("Caps")}
          value={label.caps}
          words={CAPS}
          onChange={(caps) => change({ caps })}
        />
      </Spoken>
      {scale !== "CCA" && definition && (
        <Soft as="p">
          {t(
            "{0}: {1}; about {2} of the CCA, ±{3} % ({4})",
            scale,
            definition.definition,
            definition.amps_per_sae_cca_amp,
            Math.round(definition.relative_spread * 100),
            STANDINGS[definition.standing] ?? definition.standing,
          )}
        </Soft>
      )}
      {wrong("battery.rating.scale") && <Fault role="alert">{wrong("battery.rating.scale")}</Fault>}
      <Row $columns={asksReserve ? "1.1fr 0.8fr 0.8fr 1fr" : "1fr 1fr 1fr"}>
        <Pick
          label={t("Group or box size")}
          value={size ? group : null}
          text={group ?? ""}
          allowsOther={(text) => change({ group: text.trim() === "" ? null : text })}
          onChange={(code) => {
            const picked = known.sizes.find((one) => one.code === code);
            if (picked) change({ group: picked.code, volts: picked.nominal_volts === 6 ? "v6" : "v12" });
          }}
          options={known.sizes.map((one) => ({
            id: one.code,
            name: one.code,
            note: `${one.length_mm} × ${one.width_mm} × ${one.height_mm}, + ${say(one.positive_side)}`,
          }))}
          placeholder={t("48, 24F, LN3")}
          name="battery.group_code"
          enterPicks
        />
        <Entry
          label={t("Capacity")}
          value={label.ah}
          onChange={(ah) => change({ ah })}
          unit="Ah"
          name="battery.capacity_ah_20h"
        />
        {asksReserve && (
          <Entry
            label={t("Reserve")}
            value={label.reserve}
            onChange={(reserve) => change({ reserve })}
            unit={t("min")}
            name="battery.reserve_minutes"
          />
        )}
        <Entry
          label={t("Date code")}
          value={label.made}
          onChange={(made) => change({ made, madePicked: null })}
          numeric={false}
          placeholder="C5, 0325"
          name="battery.made_on"
        />
      </Row>
      {months && months.length > 0 && label.made.trim() !== "" && (
        <Choice
          label={t("Made in")}
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
          label={t("Line")}
          value={known.lines.includes(line) ? line : null}
          text={line}
          allowsOther={(line) => change({ line })}
          onChange={(id) => id && change({ line: id })}
          options={known.lines.map((one) => ({ id: one, name: one }))}
          placeholder={t("as printed")}
        />
        <DayField label={t("Sold by us on")} value={story.sold} onChange={(sold) => tell({ sold })} name="sold_on" />
        <Entry
          label={t("Serial")}
          value={label.serial}
          onChange={(serial) => change({ serial })}
          numeric={false}
          name="battery.serial"
        />
      </Row>
    </>
  );
}
