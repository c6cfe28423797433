/** From store to store: what is sent, called back, and where it is said of a battery that it is on its way. */
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Menu, MenuTrigger } from "react-aria-components";
import { api, answerOf, type Schema } from "../api/client";
import { askAgain } from "../api/live";
import { queries, shelf, stores } from "../api/queries";
import { useWrite } from "../desks/goods/useWrite";
import { MenuSheet as Sheet, MenuOption as Item } from "../kit/menu";
import { Button, Soft } from "../kit/parts";
import { t } from "../language/t";
import styled from "styled-components";

const WayLine = styled.p`
  flex-basis: 100%;
  display: flex;
  gap: 10px;
  align-items: center;
  flex-wrap: wrap;
`;

const NONE: Schema["StoreName"][] = [];

/** The other stores of the house; none where there is one alone. */
export function useOtherStores(): Schema["StoreName"][] {
  const { data } = useQuery(stores);
  return data?.stores.filter(({ here }) => !here) ?? NONE;
}

type Answer = Schema["StoresView"];
const took = (view: Answer) => {
  queries.setQueryData(stores.queryKey, {
    stores: view.stores,
    on_the_way: view.on_the_way,
    lately: view.lately,
  });
};

export function useSend(onDone?: () => void) {
  return useWrite(
    (what: Omit<Schema["Send"], "note">, named) =>
      answerOf(api.POST("/api/stores/sends", { params: named, body: { note: "", ...what } })),
    (view) => {
      took(view);
      onDone?.();
    },
  );
}

/** A small button that asks for the store: nothing goes by one slip of a finger. */
export function SendTo({ what, name }: { what: { piece_id: number } | { customer_id: number }; name: string }) {
  const others = useOtherStores();
  const [sent, setSent] = useState("");
  const send = useSend();
  if (!others.length) return null;
  const to = (store: Schema["StoreName"]) => {
    setSent(store.name);
    send.write({ to_store_id: store.id, ...what });
  };
  if (send.done) return <Soft role="status">{t("sending.on_the_way_to", { sent })}</Soft>;
  if (send.beside())
    return (
      <Soft role="alert">
        {t("sending.not_sent")} {send.beside()}
      </Soft>
    );
  return (
    <MenuTrigger>
      <Button aria-label={t("sending.send_to_another_store", { name })} isDisabled={send.pending}>
        {t("sending.send")}&nbsp;▾
      </Button>
      <Sheet placement="bottom end">
        <Menu
          aria-label={t("sending.send_to")}
          onAction={(id) => {
            const store = others.find((other) => String(other.id) === id);
            if (store) to(store);
          }}
        >
          {others.map((store) => (
            <Item key={store.id} id={String(store.id)}>
              {store.name}
            </Item>
          ))}
        </Menu>
      </Sheet>
    </MenuTrigger>
  );
}

export function useSettle(onArrived?: (tag: number | null) => void) {
  const arrived = useWrite(
    (id: number, named) =>
      answerOf(
        api.POST("/api/stores/sends/{transfer_id}/arrived", {
          params: { ...named, path: { transfer_id: id } },
          body: {},
        }),
      ),
    (answer) => {
      took(answer);
      void askAgain(shelf.queryKey, ["customers"]);
      onArrived?.(answer.tag);
    },
  );
  const calledBack = useWrite(
    (id: number, named) =>
      answerOf(
        api.POST("/api/stores/sends/{transfer_id}/called-back", {
          params: { ...named, path: { transfer_id: id } },
          body: {},
        }),
      ),
    (answer) => {
      took(answer);
      void askAgain(shelf.queryKey, ["battery"]);
    },
  );
  return { arrived, calledBack, fault: arrived.beside() ?? calledBack.beside() };
}

/** On the Check desk of a battery that is on its way: where to, since when, and the way back. */
export function OnItsWay({ tag }: { tag: number }) {
  const { data } = useQuery(stores);
  const { calledBack, fault } = useSettle();
  const sending = data?.on_the_way.find((row) => !row.coming && row.kind === "battery" && row.tag === tag);
  if (!sending) return null;
  return (
    <WayLine>
      {t("sending.on_its_way_to_nothing_more_is_read_of_it", { to_name: sending.to_name })}
      <Button isDisabled={calledBack.pending} onPress={() => calledBack.write(sending.id)}>
        {t("screens.call_it_back")}
      </Button>
      {fault && <span role="alert">{fault}</span>}
    </WayLine>
  );
}
