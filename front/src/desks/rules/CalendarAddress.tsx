/** The address any calendar reads the shop's reminders from; a new one closes the old one. */
import { useRef, useState } from "react";
import { useMutation, useQuery } from "@tanstack/react-query";
import styled from "styled-components";
import { api, answerOf, writeHeader } from "../../api/client";
import { put } from "../../api/live";
import { calendar } from "../../api/queries";
import { newId } from "../../kit/clock";
import { Button, Soft } from "../../kit/parts";
import { t } from "../../language/t";

const Address = styled.code`
  display: block;
  padding: 8px 10px;
  border: 1px solid var(--line);
  border-radius: 8px;
  background: var(--sheet);
  font: inherit;
  overflow-wrap: anywhere;
  user-select: all;
`;
const Beside = styled.div`
  display: flex;
  gap: 8px;
  flex-wrap: wrap;
`;

export function CalendarAddress() {
  const { data: found } = useQuery(calendar);
  const [isCopied, setCopied] = useState(false);
  const writeId = useRef(newId());
  const renew = useMutation({
    mutationFn: () => answerOf(api.POST("/api/calendar", { params: writeHeader(writeId.current), body: {} })),
    onSuccess: (renewed) => {
      writeId.current = newId();
      setCopied(false);
      put(calendar.queryKey, renewed);
    },
  });
  if (!found) return null;
  const copy = (address: string) =>
    navigator.clipboard.writeText(address).then(
      () => setCopied(true),
      () => setCopied(false), // not allowed here: the address can be marked by hand
    );
  return (
    <>
      <h2>{t("calendar_address.reminders_in_any_calendar")}</h2>
      <Address data-testid="calendar-address">{found.address}</Address>
      <Beside>
        {window.isSecureContext && (
          <Button onPress={() => void copy(found.address)}>
            {isCopied ? t("screens.copied") : t("calendar_address.copy_the_address")}
          </Button>
        )}
        <Button onPress={() => renew.mutate()} isDisabled={renew.isPending}>
          {t("calendar_address.make_a_new_address")}
        </Button>
      </Beside>
      {renew.error && <p role="alert">{renew.error.message}</p>}
      <Soft>{t("calendar_address.what_comes_off_charge_when_and_which")}</Soft>
    </>
  );
}
