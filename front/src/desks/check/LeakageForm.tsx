/** Case leakage: type the volts, touch the place on the drawing; as many places as are damp. */
import { useEffect } from "react";
import { Form } from "react-aria-components";
import type { Schema } from "../../api/client";
import { caseOf, type Size } from "../../case/Case";
import { placeOf, TouchCase, type View } from "../../case/TouchCase";
import { useKept } from "../../kit/drafts";
import { Button, Choice, Entry, Key_ } from "../../kit/parts";
import { useFirstField } from "../../kit/useFirstField";
import { endsInPoint, voltsFault, voltsOf } from "../../kit/units";
import type { FormProps } from "./fields";
import { written } from "../../language/catalogue";
import { t } from "../../language/t";

type Spot = Schema["Spot"];

const NO_YES = { no: t("No"), yes: t("Yes") } as const;

export function LeakageForm({ start: kept, battery, size: known, due, says, fault, onType, onKeep }: FormProps) {
  const start = kept as Schema["CaseLeakage"] | null;
  const size = caseOf(known, battery.nominal_volts);
  const [text, setText] = useKept("text", start ? String(start.volts) : "");
  const [cleaned, setCleaned] = useKept<"no" | "yes">(
    "cleaned",
    (start?.cleaned ?? due === "clean_top") ? "yes" : "no",
  );
  const [spots, setSpots] = useKept<Spot[]>("spots", start?.spots ?? []);
  const form = useFirstField();
  const volts = voltsOf(text);
  const all = [...(volts === null ? [] : [volts]), ...spots.map((spot) => spot.volts)];
  const body = all.length ? { volts: Math.max(...all), cleaned: cleaned === "yes", spots } : null;
  const said = JSON.stringify(body);
  // eslint-disable-next-line react-hooks/exhaustive-deps -- told again only when what is typed changes
  useEffect(() => onType(body, endsInPoint(text)), [said, text]);

  function touch(view: View, across: number, down: number) {
    if (volts !== null) setSpots([...spots, { volts, view, across, down }]);
  }

  return (
    <Form
      ref={form}
      style={{ display: "grid", gap: 10 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (body) onKeep(body);
      }}
    >
      <p>{t("Voltmeter from the positive post to the damp plastic. Type the volts, then touch where.")}</p>
      <div style={{ display: "flex", gap: 16 }}>
        <TouchCase size={size} label={t("The case: touch where it was measured")} onTouch={touch}>
          {spots.map((spot, index) => (
            <SpotFigure key={index} spot={spot} size={size} over={says?.places.includes(index) ?? false} />
          ))}
        </TouchCase>
        <div style={{ display: "grid", gap: 10, alignContent: "start" }}>
          <div style={{ width: 150 }}>
            <Entry
              label={t("Post to plastic")}
              value={text}
              onChange={setText}
              unit="V"
              big
              autoFocus
              problem={voltsFault(text) ?? fault("volts")}
              name="volts"
            />
          </div>
          <Choice label={t("Cleaned and dried before")} value={cleaned} words={NO_YES} onChange={setCleaned} />
          {spots.length > 0 && (
            <Button onPress={() => setSpots(spots.slice(0, -1))}>{t("Take the last place away")}</Button>
          )}
        </div>
      </div>
      <div>
        <Button type="submit" $tone="strong" isDisabled={body === null}>
          {t("Keep")} <Key_>↵</Key_>
        </Button>
      </div>
    </Form>
  );
}

/** The volts at a place that was touched, in the colour of what the core finds too high. */
function SpotFigure({ spot, size, over }: { spot: Spot; size: Size; over: boolean }) {
  const { x, y } = placeOf(size, spot.view ?? "top", spot.across ?? 0.5, spot.down ?? 0.5);
  return (
    <g pointerEvents="none">
      <rect
        x={x - 26}
        y={y - 14}
        width={52}
        height={28}
        rx={8}
        fill="var(--sheet)"
        stroke={over ? "var(--failed)" : "var(--sound)"}
        strokeWidth={3}
      />
      <text x={x} y={y + 7} textAnchor="middle" style={{ fontSize: 19, fontWeight: 700, fill: "var(--ink)" }}>
        {written(spot.volts.toFixed(1))}
      </text>
    </g>
  );
}
