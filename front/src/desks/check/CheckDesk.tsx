/** The Check desk. What is typed for a battery before it stands here is typed into its first field. */
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import type { Schema } from "../../api/client";
import { battery, reference, shelf } from "../../api/queries";
import { Empty, Page } from "../../kit/parts";
import { expectField, noField } from "../../kit/typeAhead";
import { Bench } from "./Bench";

export function CheckDesk({ tag, who }: { tag: number | null; who: Schema["Me"] }) {
  const { data: shelved } = useQuery(shelf);
  const first = shelved?.[0]?.tag;
  if (tag === null)
    return (
      <Page>
        <Empty>
          <h1>Which battery?</h1>
          <p>Press / and type its tag, scan it, or touch it on the shelf.</p>
          {first === undefined && <p>None is in the house yet: take one in at the Counter.</p>}
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
  useEffect(() => {
    if (error && !view) noField();
    else if (!stands) expectField();
  }, [stands, error, view]);
  // What is shown and typed stays while the server is away.
  if (error && !view)
    return (
      <Page>
        <Empty>
          <h2>{error.message}</h2>
          <p>Look at the tag again, or search its line or serial in Records.</p>
        </Empty>
      </Page>
    );
  return stands ? <Bench view={view} who={who} /> : <Page />;
}
