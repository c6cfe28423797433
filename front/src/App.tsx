/** The whole page: who is signed in, the desk in the middle, the shelf below. Locked, nothing of it is there; drafts wait. */
import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useEffect } from "react";
import { I18nProvider, RouterProvider } from "react-aria-components";
import { Navigate, Route, Routes, useLocation, useNavigate, useParams } from "react-router";
import styled from "styled-components";
import type { Schema } from "./api/client";
import { follow } from "./api/live";
import { belongsTo, me, people } from "./api/queries";
import { forgetKnown } from "./desks/match/known";
import { SignIn } from "./desks/sign-in/SignIn";
import { Header } from "./kit/Header";
import { draftsOf } from "./kit/drafts";
import { Opening, Outline } from "./kit/Outline";
import { AWAY, lineDown, onBack } from "./kit/line";
import { fetchAhead } from "./kit/ahead";
import { useLock, useOtherTabs } from "./kit/lock";
import { authorIs } from "./kit/outbox";
import { useIdle } from "./kit/useIdle";
import { LineStrip } from "./kit/WaitingSheet";
import { timesAre } from "./kit/words";
import { Shelf } from "./shelf/Shelf";
import { languageIs, locale } from "./language/catalogue";
import { t } from "./language/t";
import { Pair } from "./kit/layout";
import { Who } from "./kit/who";

const Nothing = styled.main`
  display: grid;
  place-content: center;
  height: 100%;
  text-align: center;
  gap: 8px;
`;

const load = {
  counter: () => import("./desks/counter/CounterDesk"),
  check: () => import("./desks/check/CheckDesk"),
  correct: () => import("./desks/counter/CorrectDesk"),
  match: () => import("./desks/match/MatchDesk"),
  warranty: () => import("./desks/warranty/WarrantyDesk"),
  life: () => import("./desks/records/LifeDesk"),
  records: () => import("./desks/records/RecordsDesk"),
  customers: () => import("./desks/customers/CustomersDesk"),
  rules: () => import("./desks/rules/RulesDesk"),
  house: () => import("./desks/house/HouseDesk"),
  rack: () => import("./desks/rack/RackDesk"),
  equipment: () => import("./desks/equipment/EquipmentDesk"),
  goods: () => import("./desks/goods/GoodsDesk"),
  lists: () => import("./desks/goods/ImportDesk"),
  fitting: () => import("./desks/fitting/FittingDesk"),
};
const RELOADED = "vane-check-reloaded";
const ONCE_IN_MS = 60_000;
/** A server that takes a question and never answers it is away too. */
const PATIENCE_MS = 15_000;

/** The server answers but has not got this desk: it was brought up to date meanwhile. The page loads again; drafts wait. */
async function isAnotherRelease(): Promise<boolean> {
  try {
    const answer = await fetch("/api/people", { cache: "no-store", signal: AbortSignal.timeout(PATIENCE_MS) });
    if (answer.status >= 500) return false;
  } catch {
    return false;
  }
  const last = Number(sessionStorage.getItem(RELOADED));
  if (Date.now() - last < ONCE_IN_MS) return false;
  sessionStorage.setItem(RELOADED, String(Date.now()));
  location.reload();
  return true;
}

/** A desk that cannot be fetched now is fetched when the line is back; the page says so meanwhile. */
async function surely<Desk>(fetch: () => Promise<Desk>): Promise<Desk> {
  for (;;) {
    const slow = setTimeout(() => lineDown(AWAY), PATIENCE_MS); // an answer takes it back
    try {
      return await fetch();
    } catch {
      if (await isAnotherRelease()) return new Promise<never>(() => undefined); // the page is on its way anew
      lineDown(AWAY);
      await new Promise<void>((back) => {
        const stop = onBack(() => {
          stop();
          back();
        });
      });
    } finally {
      clearTimeout(slow);
    }
  }
}

const CounterDesk = lazy(async () => ({ default: (await surely(load.counter)).CounterDesk }));
const CheckDesk = lazy(async () => ({ default: (await surely(load.check)).CheckDesk }));
const CorrectDesk = lazy(async () => ({ default: (await surely(load.correct)).CorrectDesk }));
const MatchDesk = lazy(async () => ({ default: (await surely(load.match)).MatchDesk }));
const WarrantyDesk = lazy(async () => ({ default: (await surely(load.warranty)).WarrantyDesk }));
const LifeDesk = lazy(async () => ({ default: (await surely(load.life)).LifeDesk }));
const RecordsDesk = lazy(async () => ({ default: (await surely(load.records)).RecordsDesk }));
const CustomersDesk = lazy(async () => ({ default: (await surely(load.customers)).CustomersDesk }));
const RackDesk = lazy(async () => ({ default: (await surely(load.rack)).RackDesk }));
const EquipmentDesk = lazy(async () => ({ default: (await surely(load.equipment)).EquipmentDesk }));
const GoodsDesk = lazy(async () => ({ default: (await surely(load.goods)).GoodsDesk }));
const ImportDesk = lazy(async () => ({ default: (await surely(load.lists)).ImportDesk }));
const FittingDesk = lazy(async () => ({ default: (await surely(load.fitting)).FittingDesk }));
const SetUp = lazy(async () => ({ default: (await surely(() => import("./desks/set-up/SetUp"))).SetUp }));
const HouseDesk = lazy(async () => ({ default: (await surely(load.house)).HouseDesk }));
const RulesDesk = lazy(async () => ({ default: (await surely(load.rules)).RulesDesk }));

/** Fetch the desks while nothing else is done, so that none is waited for, and all are there when the line goes down. */
function fetchDesks() {
  const fetch = () => void Promise.allSettled(Object.values(load).map((one) => one()));
  const later = window.setTimeout(fetch, 50);
  return () => clearTimeout(later);
}

const Frame = styled.div`
  height: 100%;
  display: grid;
  grid-template-rows: 56px auto minmax(0, 1fr) auto;
  grid-template-columns: minmax(0, 1fr);
`;

type Me = Schema["Me"];

export function App() {
  const navigate = useNavigate();
  const {
    data: found,
    isPending,
    isError,
  } = useQuery({ ...me, refetchInterval: ({ state }) => (state.error ? 2000 : false) });
  useOtherTabs();
  if (isPending) return <Opening />;
  if (isError && found === undefined) return <Gone />;
  // Whose drafts and readings these are is settled before anything of theirs is drawn.
  if (found) {
    draftsOf(found.store.id, found.id);
    timesAre(found.store.time_zone);
    if (languageIs(found.store.language)) return <Anew />;
  }
  return (
    <I18nProvider locale={locale()}>
      <RouterProvider navigate={(path) => void navigate(path)}>
        {found ? <House key={found.session_id} who={found} /> : <Door />}
      </RouterProvider>
    </I18nProvider>
  );
}

/** The shop speaks another language than this page: it is read anew, once. Drafts wait. */
function Anew() {
  useEffect(() => location.reload(), []);
  return null;
}

/** The sign-in page; where there is no shop yet, the page that sets one up. */
function Door() {
  const { data: door } = useQuery(people);
  if (door?.store && languageIs(door.language)) return <Anew />;
  if (!door?.set_up) return <SignIn />;
  return (
    <Suspense fallback={<Outline />}>
      <SetUp />
    </Suspense>
  );
}

function Gone() {
  return (
    <Nothing>
      <h1>{t("app.the_server_does_not_answer")}</h1>
      <p>{t("app.start_it_with_bin_start_this_page_comes")}</p>
    </Nothing>
  );
}

function House({ who }: { who: Me }) {
  const { data: door } = useQuery(people);
  const location = useLocation();
  const tagText = /^\/(?:check|match|warranty|life|take-in|fitting)\/(\d+)/.exec(location.pathname)?.[1];
  const current = tagText ? Number(tagText) : null;

  const lock = useLock();
  useIdle(who.store.idle_minutes, lock);
  useEffect(follow, [who.session_id]);
  useEffect(() => belongsTo(who.store.door), [who.store.door]);
  useEffect(fetchDesks, []);
  useEffect(fetchAhead, []);
  useEffect(() => forgetKnown, []); // what was typed on the match desk is not the next person's
  useEffect(() => {
    authorIs(who);
    return () => authorIs(null);
  }, [who]);

  return (
    <Who value={who}>
      <Frame data-at={location.pathname}>
        <Header
          who={who}
          staff={door?.people ?? []}
          current={current}
          onChange={(person) => {
            if (person) sessionStorage.setItem("vane-check-next", String(person));
            lock();
          }}
        />
        <LineStrip />
        {/* one for each desk: the one before goes at once, and the next says that it comes */}
        <Suspense key={location.pathname.split("/")[1]} fallback={<Outline />}>
          <Routes>
            <Route path="/" element={<Navigate to="/counter" replace />} />
            <Route path="/counter" element={<CounterDesk />} />
            <Route path="/take-in/:tag" element={<WithTag of={(tag) => <CorrectDesk tag={tag} />} />} />
            <Route path="/check" element={<CheckDesk tag={null} who={who} />} />
            <Route path="/check/:tag" element={<WithTag of={(tag) => <CheckDesk tag={tag} who={who} />} />} />
            <Route path="/match" element={<MatchDesk tag={null} store={who.store} />} />
            <Route path="/match/:tag" element={<WithTag of={(tag) => <MatchDesk tag={tag} store={who.store} />} />} />
            <Route path="/warranty" element={<WarrantyDesk tag={null} />} />
            <Route path="/warranty/:tag" element={<WithTag of={(tag) => <WarrantyDesk tag={tag} />} />} />
            <Route path="/life/:tag" element={<WithTag of={(tag) => <LifeDesk tag={tag} who={who} />} />} />
            <Route path="/customers" element={<CustomersDesk id={null} who={who} />} />
            <Route path="/customers/:id" element={<WithId of={(id) => <CustomersDesk id={id} who={who} />} />} />
            <Route path="/records" element={<RecordsDesk />} />
            <Route path="/records/:tag" element={<WithTag of={(tag) => <Navigate to={`/life/${tag}`} replace />} />} />
            <Route path="/rack" element={<RackDesk tag={null} />} />
            <Route path="/rack/:tag" element={<WithTag of={(tag) => <RackDesk tag={tag} />} />} />
            <Route path="/equipment" element={<EquipmentDesk who={who} />} />
            <Route path="/goods" element={<GoodsDesk who={who} />} />
            <Route path="/goods/lists" element={<ImportDesk who={who} />} />
            <Route path="/fitting/:tag" element={<WithTag of={(tag) => <FittingDesk tag={tag} />} />} />
            <Route path="/rules" element={<RulesDesk />} />
            <Route path="/house" element={<HouseDesk who={who} />} />
            <Route path="*" element={<Navigate to="/counter" replace />} />
          </Routes>
        </Suspense>
        <Shelf current={current} />
      </Frame>
    </Who>
  );
}

function WithTag({ of }: { of: (tag: number) => React.ReactElement }) {
  const tag = Number(useParams()["tag"]);
  return <Pair key={tag}>{of(tag)}</Pair>;
}

function WithId({ of }: { of: (id: number) => React.ReactElement }) {
  return of(Number(useParams()["id"]));
}
