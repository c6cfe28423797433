/** What the label says. Number pad first, defaults that are usually right. */
import type { Schema } from "../../api/client";
import { DayField } from "../../kit/DayField";
import { Choice, Entry } from "../../kit/parts";
import { Pick } from "../../kit/Pick";
import { Sentence, Spoken, Word, WordChoices } from "../../kit/Spoken";
import { CHEMISTRIES, STANDINGS } from "../../kit/words";
import { Fault, Row } from "./layout";
import { SCALES, type Writing } from "./takeIn";

const CAPS = { unknown: "Not looked for", yes: "Open", no: "Sealed" } as const;
const VOLTS = { v12: "12 V", v6: "6 V" } as const;

/** A month of the calendar: a day without a time, the same in every zone. */
const monthWords = (iso: string) =>
  new Date(iso).toLocaleDateString("en-GB", { month: "short", year: "numeric", timeZone: "UTC" });

interface Props {
  form: Writing;
  known: Schema["Reference"];
}

export function LabelFields({ form, known }: Props) {
  const { label, change, story, tell, months, madeOn, wrong } = form;
  const { scale, group, line } = label;
  const said = known.scales[scale];
  const size = known.sizes.find((one) => one.code === group);
  // a battery without a starting figure is rated by what it stores
  const asksReserve = label.rated.trim() === "" || label.reserve !== "";
  const sizeVolts = size ? (size.nominal_volts === 6 ? "v6" : "v12") : null;
  return (
    <>
      <h2>What else the label says</h2>
      <Spoken label="The label in words">
        <Sentence>
          <Word
            name="volts"
            letter="V"
            label="Volts"
            says={VOLTS[label.volts]}
            odd={sizeVolts !== null && sizeVolts !== label.volts}
          />{" "}
          <Word
            name="chemistry"
            letter="H"
            label="Chemistry"
            says={CHEMISTRIES[label.chemistry].replace(/^(Flooded|Low-maintenance|Calcium|Gel)$/, (word) =>
              word.toLowerCase(),
            )}
          />
          , rated in{" "}
          <Word name="scale" letter="S" label="Scale of the rated figure" says={scale} odd={scale !== "CCA"} />, caps{" "}
          <Word name="caps" letter="K" label="Caps" says={CAPS[label.caps].toLowerCase()} />
        </Sentence>
        <WordChoices
          name="volts"
          label="Volts"
          value={label.volts}
          words={VOLTS}
          onChange={(volts) => change({ volts })}
        />
        <WordChoices
          name="chemistry"
          label="Chemistry"
          value={label.chemistry}
          words={CHEMISTRIES}
          onChange={(chemistry) => change({ chemistry, chemistryRead: true })}
        />
        <WordChoices
          name="scale"
          label="Scale of the rated figure"
          value={scale}
          words={SCALES}
          onChange={(picked) => change({ scale: picked })}
        />
        <WordChoices name="caps" label="Caps" value={label.caps} words={CAPS} onChange={(caps) => change({ caps })} />
      </Spoken>
      {scale !== "CCA" && said && (
        <p style={{ color: "var(--soft)", fontSize: 16 }}>
          {scale}: {said.definition}; about {said.amps_per_sae_cca_amp} of the CCA, ±
          {Math.round(said.relative_spread * 100)} % ({STANDINGS[said.standing] ?? said.standing})
        </p>
      )}
      {wrong("battery.rating.scale") && <Fault role="alert">{wrong("battery.rating.scale")}</Fault>}
      <Row $columns={asksReserve ? "1.1fr 0.8fr 0.8fr 1fr" : "1fr 1fr 1fr"}>
        <Pick
          label="Group or box size"
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
            note: `${one.length_mm} × ${one.width_mm} × ${one.height_mm}, + ${one.positive_side}`,
          }))}
          placeholder="48, 24F, LN3"
          name="battery.group_code"
        />
        <Entry
          label="Capacity"
          value={label.ah}
          onChange={(ah) => change({ ah })}
          unit="Ah"
          name="battery.capacity_ah_20h"
        />
        {asksReserve && (
          <Entry
            label="Reserve"
            value={label.reserve}
            onChange={(reserve) => change({ reserve })}
            unit="min"
            name="battery.reserve_minutes"
          />
        )}
        <Entry
          label="Date code"
          value={label.made}
          onChange={(made) => change({ made, madePicked: null })}
          numeric={false}
          placeholder="C5, 0325"
          name="battery.made_on"
        />
      </Row>
      {months && months.length > 0 && label.made.trim() !== "" && (
        <Choice
          label="Made in"
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
          label="Line"
          value={known.lines.includes(line) ? line : null}
          text={line}
          allowsOther={(line) => change({ line })}
          onChange={(id) => id && change({ line: id })}
          options={known.lines.map((one) => ({ id: one, name: one }))}
          placeholder="as printed"
        />
        <DayField label="Sold by us on" value={story.sold} onChange={(sold) => tell({ sold })} name="sold_on" />
        <Entry
          label="Serial"
          value={label.serial}
          onChange={(serial) => change({ serial })}
          numeric={false}
          name="battery.serial"
        />
      </Row>
    </>
  );
}
