/** What stands on every paper: tax, the lines under the shop's name and at the foot, a picture. */
import { useState } from "react";
import { FileTrigger, TextArea, TextField } from "react-aria-components";
import styled from "styled-components";
import { api, answerOf, type Schema } from "../../api/client";
import { Button, Choice, Soft, StyledLabel } from "../../kit/parts";
import { Entry } from "../../kit/Entry";
import { Acts, Fault, Figures } from "../goods/parts";
import { useWrite } from "../goods/useWrite";
import type { ShopTyped } from "./ShopFields";
import { t } from "../../language/t";
import { Beside, Stack } from "../../kit/layout";

const LogoActs = styled(Acts)`
  align-items: center;
`;

const Lines = styled(TextArea)`
  width: 100%;
  min-height: 74px;
  padding: 6px 10px;
  border: 1.5px solid var(--line);
  border-radius: 8px;
  background: var(--sheet);
  font: inherit;
  resize: vertical;
  &[data-focused] {
    border-color: var(--ink);
    outline: none;
    box-shadow: 0 0 0 2px var(--ink);
  }
`;

interface Props {
  typed: ShopTyped;
  onChange: (typed: ShopTyped) => void;
  of: (path: string) => string | undefined;
}

export function PaperFields({ typed, onChange, of }: Props) {
  const set = (more: Partial<ShopTyped>) => onChange({ ...typed, ...more });
  return (
    <>
      <Figures>
        <Entry
          label={typed.onTop ? t("paper_fields.tax_on_top_of_prices") : t("paper_fields.tax_within_prices")}
          value={typed.taxName}
          onChange={(taxName) => set({ taxName })}
          numeric={false}
          name="tax_name"
          placeholder={t("screens.none")}
          problem={of("shop.tax_name")}
        />
        <Entry
          label={t("paper_fields.its_rate")}
          value={typed.tax}
          onChange={(tax) => set({ tax })}
          unit="%"
          name="tax_pct"
          problem={of("shop.tax_pct")}
        />
        <Choice
          label={t("paper_fields.paper_size")}
          value={typed.paper}
          words={{ A4: "A4", Letter: t("paper_fields.letter") }}
          onChange={(paper) => set({ paper })}
        />
      </Figures>
      <Beside $gap={8}>
        <Choice
          label={t("paper_fields.prices_are")}
          hideLabel
          value={typed.onTop ? "on_top" : "within"}
          words={{ within: t("paper_fields.with_tax"), on_top: t("paper_fields.without_tax") }}
          onChange={(where) => set({ onTop: where === "on_top" })}
        />
        <Button onPress={() => set({ more: [...typed.more, { name: "", pct: "" }] })}>
          {t("paper_fields.another_rate")}
        </Button>
      </Beside>
      {typed.more.map((one, at) => (
        <Figures key={at}>
          <Entry
            label={t("paper_fields.for_single_items")}
            value={one.name}
            onChange={(name) => set({ more: typed.more.map((each, k) => (k === at ? { ...each, name } : each)) })}
            numeric={false}
            name={`more_tax_${at}`}
            problem={of(`shop.more_taxes.${at}.name`)}
          />
          <Entry
            label={t("paper_fields.its_rate")}
            value={one.pct}
            onChange={(pct) => set({ more: typed.more.map((each, k) => (k === at ? { ...each, pct } : each)) })}
            unit="%"
            name={`more_pct_${at}`}
            problem={of(`shop.more_taxes.${at}.pct`)}
          />
          <div>
            <Button onPress={() => set({ more: typed.more.filter((_, k) => k !== at) })}>
              {t("paper_fields.take_it_away")}
            </Button>
          </div>
        </Figures>
      ))}
      {of("shop.more_taxes") && <Fault role="alert">{of("shop.more_taxes")}</Fault>}
      <TextField value={typed.head} onChange={(head) => set({ head })} name="paper_head">
        <StyledLabel>{t("paper_fields.under_the_name_on_every_paper")}</StyledLabel>
        <Lines rows={2} />
      </TextField>
      <TextField value={typed.foot} onChange={(foot) => set({ foot })} name="paper_foot">
        <StyledLabel>{t("paper_fields.at_the_foot_of_every_paper")}</StyledLabel>
        <Lines rows={2} />
      </TextField>
      {(of("shop.paper_head") ?? of("shop.paper_foot")) && (
        <Fault role="alert">{of("shop.paper_head") ?? of("shop.paper_foot")}</Fault>
      )}
    </>
  );
}

interface LogoProps {
  found: Schema["HouseView"];
  onDone: (answer: Schema["HouseView"]) => void;
}

/** The shop's picture at the head of papers. */
export function Logo({ found, onDone }: LogoProps) {
  const [unread, setUnread] = useState("");
  const write = useWrite(
    (picture: string, named) => answerOf(api.PUT("/api/house/logo", { params: named, body: { picture } })),
    onDone,
  );
  async function bring(file: File | undefined) {
    if (!file) return;
    setUnread("");
    try {
      write.write(await base64Of(file));
    } catch {
      setUnread(t("paper_fields.this_file_cannot_be_read"));
    }
  }
  const fault = unread || write.of("picture") || write.beside("picture");
  return (
    <Stack $gap={6} as="section" aria-label={t("paper_fields.picture_on_papers")}>
      <LogoActs>
        <FileTrigger acceptedFileTypes={["image/png", "image/jpeg"]} onSelect={(files) => void bring(files?.[0])}>
          <Button>
            {found.has_logo ? t("paper_fields.another_picture_for_papers") : t("paper_fields.a_picture_for_papers")}
          </Button>
        </FileTrigger>
        {found.has_logo ? (
          <Button isDisabled={write.pending} onPress={() => write.write("")}>
            {t("paper_fields.take_it_away")}
          </Button>
        ) : (
          <Soft>{t("paper_fields.png_or_jpeg")}</Soft>
        )}
        {found.has_logo && <Soft>{t("paper_fields.a_picture_stands_at_the_head_of_papers")}</Soft>}
      </LogoActs>
      {fault && <Fault role="alert">{fault}</Fault>}
    </Stack>
  );
}

async function base64Of(file: File): Promise<string> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  let text = "";
  for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192));
  return btoa(text);
}
