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
          <h1>{t("screens.which_battery")}</h1>
          <p>{t("check_desk.press_and_type_its_tag_scan_it_or_touch_it")}</p>
          {first === undefined && <p>{t("check_desk.none_is_in_the_house_yet_take_one_in_at")}</p>}
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
        <p>{t("check_desk.look_at_the_tag_again_or_search_its_line")}</p>
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
        <h2>{t("check_desk.was_not_opened_on_this_device_before_the", { tag })}</h2>
        {onShelf ? (
          <p>
            {t("check_desk.the_shelf_has_it_its_readings_come_when", {
              line: onShelf.line || t("screens.no_line"),
              place: PLACES[onShelf.place],
              outcome: onShelf.outcome ? outcomeWords(onShelf.outcome, onShelf.next_step) : t("screens.not_read_yet"),
            })}
          </p>
        ) : (
          <p>{t("check_desk.it_is_not_on_the_shelf_either_it_comes")}</p>
        )}
      </Empty>
    </Page>
  );
}
