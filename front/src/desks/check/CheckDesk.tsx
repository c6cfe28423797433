/** The Check desk. What is typed for a battery before it stands here is typed into its first field. */
import { useQuery } from "@tanstack/react-query";
import { useLayoutEffect } from "react";
import { ApiProblem, type Schema } from "../../api/client";
import { battery, reference, shelf } from "../../api/queries";
import { Outline } from "../../kit/Outline";
import { Empty, Page } from "../../kit/parts";
import { expectField, noField } from "../../kit/typeAhead";
import { outcomeWords, PLACES } from "../../kit/words";
import { Bench } from "./Bench";
import { t } from "../../language/t";

export function CheckDesk({ tag, who }: { tag: number | null; who: Schema["Me"] }) {
  const { data: shelved } = useQuery(shelf);
  const first = shelved?.[0]?.tag;
  if (tag === null)
    return (
      <Page>
        <Empty>
          <h1>{t("Which battery?")}</h1>
          <p>{t("Press / and type its tag, scan it, or touch it on the shelf.")}</p>
          {first === undefined && <p>{t("None is in the house yet: take one in at the Counter.")}</p>}
        </Empty>
      </Page>
    );
  return <OneCheck tag={tag} who={who} />;
}

function OneCheck({ tag, who }: { tag: number; who: Schema["Me"] }) {
  const { data: view, error } = useQuery(battery(tag));
  const { isPending: cautionsToCome } = useQuery(reference);
  const stands = view !== undefined && !cautionsToCome;
  // What is typed for this battery before it stands here is typed into its first field.
  useLayoutEffect(() => {
    if (error && !view) noField();
    else if (!stands) expectField("desk");
  }, [stands, error, view]);
  // What is shown and typed stays while the server is away.
  if (error && !view) return error instanceof ApiProblem ? <NoSuch says={error.message} /> : <Unseen tag={tag} />;
  return stands ? <Bench view={view} who={who} /> : <Outline />;
}

function NoSuch({ says }: { says: string }) {
  return (
    <Page>
      <Empty>
        <h2>{says}</h2>
        <p>{t("Look at the tag again, or search its line or serial in Records.")}</p>
      </Empty>
    </Page>
  );
}

/** The line is down and this battery was never opened here: what the shelf knows of it. */
function Unseen({ tag }: { tag: number }) {
  const { data: shelved } = useQuery(shelf);
  const onShelf = shelved?.find((one) => one.tag === tag);
  return (
    <Page>
      <Empty>
        <h2>{t("{0} was not opened on this device before the line went down", tag)}</h2>
        {onShelf ? (
          <p>
            {t(
              "The shelf has it: {0}, {1}, {2}. Its readings come when the line is back.",
              onShelf.line || t("no line"),
              PLACES[onShelf.place],
              onShelf.outcome ? outcomeWords(onShelf.outcome, onShelf.next_step) : t("not read yet"),
            )}
          </p>
        ) : (
          <p>{t("It is not on the shelf either. It comes when the line is back.")}</p>
        )}
      </Empty>
    </Page>
  );
}
