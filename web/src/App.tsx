import { useEffect, useState } from "react";
import { HotkeysProvider } from "react-hotkeys-hook";
import {
  BrowserRouter,
  Link,
  Outlet,
  Route,
  Routes,
  useLocation,
  useMatch,
  useNavigate,
  useParams,
} from "react-router";
import {
  benchPath,
  Fetched,
  PAGE_KEYS,
  SessionProvider,
  Settled,
  Shell,
  SignInPage,
  useBenches,
  useKeys,
  useSession,
  Waiting,
  type Schemas,
} from "./base";
import { BottomBar } from "./BottomBar";
import { useUnderway } from "./underway";
import { benchDef, BENCHES } from "./benches";
import { CommandBox } from "./CommandBox";
import { PlantPage, READINGS_PAGE, RECORD_PAGE, RULES_PAGE, SET_PAGE, usePlant } from "./logbook";
import { chosenSite, OWN_SIGN_IN, PARTS_PAGE, REGISTER_PAGE, useKinds, useSites } from "./plant";
import { INSTRUMENTS_PAGE } from "./instruments";
import { DRIVES_PAGE } from "./electrical";
import { LOOPS_PAGE } from "./hydraulics";
import { ANATOMY_PAGE, BACK_PAGE, PROCEDURES_PAGE, WORK_PAGE } from "./jobs";
import { STORES_PAGE, VANS_PAGE } from "./stores";
import {
  BenchPage,
  CALL_PAGE,
  HAND_OVER_PAGE,
  QUALIFIED,
  LiveOver,
  LiveStrip,
  PlantCalls,
  PartHung,
  SetBegin,
  SET_HANGS,
  SetOffers,
  Tags,
  useSetPage,
  useSiteSafety,
  useTagsBySet,
  useServed,
  useTimeline,
} from "./safety";

const PLACES = [
  { to: "/", word: "Plant" },
  { to: "/work", word: "Work" },
  { to: "/stores", word: "Stores" },
  { to: "/register", word: "Register" },
  { to: "/instruments", word: "Instruments" },
  { to: "/readings", word: "Files" },
  { to: "/rules", word: "Rules" },
];

function Frame() {
  const [find, setFind] = useState(false);
  const go = useNavigate();
  const set = Number(useMatch("/sets/:setId/*")?.params.setId) || null;
  const onPage = useMatch("/sets/:setId") !== null;
  useBenches();
  const underway = useUnderway(set);
  const { pathname } = useLocation();
  // In the pump room there may be no signal: what the page itself does not need is fetched once nobody waits, and
  // read by the browser when it is wanted.
  useEffect(() => {
    const timer = setTimeout(() => {
      for (const link of document.querySelectorAll<HTMLLinkElement>("link[rel=later]")) link.rel = "prefetch";
    }, 2000);
    return () => clearTimeout(timer);
  }, []);
  useKeys([
    { key: "p", does: "go to Plant", run: () => void go("/") },
    { key: "r", does: "go to Register", run: () => void go("/register") },
    { key: "k", does: "new call", run: () => void go("/call") },
    { key: "o", does: "go to Shift handover", run: () => void go("/hand-over") },
    { key: "f", does: "go to Files (import, export)", run: () => void go("/readings") },
    { key: "x", does: "go to Vans (shim stock)", run: () => void go("/vans") },
    { key: "y", does: "go to Instruments and qualifications", run: () => void go("/instruments") },
    { key: "l", does: "go to Rules and limits", run: () => void go("/rules") },
  ]);
  return (
    <Shell
      places={PLACES}
      find={() => setFind(true)}
      strips={
        <>
          <LiveStrip />
          {BENCHES.map((b) => b.strip && <Fetched key={b.bench} load={b.strip} with={{}} quiet />)}
        </>
      }
    >
      {set !== null && !onPage && <LiveOver setId={set} />}
      <Settled place={pathname}>
        <Outlet />
      </Settled>
      <CommandBox show={find} close={() => setFind(false)} setId={set} />
      <BottomBar find={() => setFind(true)} places={PLACES} underway={underway} />
    </Shell>
  );
}
/** A record as its bench draws it. */
function Recorded({ record }: { record: Schemas["RecordOut"] }) {
  const load = benchDef(record.bench)?.recorded;
  return load ? <Fetched load={load} with={{ record }} /> : null;
}
function NotFound() {
  return (
    <div className="emptyword">
      <h1>Page not found</h1>
      <p>
        Check the address, go to <Link to="/">Plant</Link>, or press <span className="mono">/</span> to find a
        pump set.
      </p>
    </div>
  );
}
function PlantHere() {
  const tags = useTagsBySet();
  const served = useServed();
  const sites = useSites();
  const site = chosenSite(sites.data)?.id ?? null;
  const ofSite = [useSiteSafety(site), usePlant(site)];
  const parts = [sites, useKinds(), ...(site === null ? [] : ofSite)];
  // All at once, so that nothing moves when the rest of it comes; what fails says so in its place.
  const waits = parts.some((q) => q.isPending && q.fetchStatus === "fetching");
  const [drawn, setDrawn] = useState(false);
  useEffect(() => {
    if (!waits) setDrawn(true);
  }, [waits]);
  if (waits && !drawn) return <Waiting what="Loading plant" />;
  return (
    <PlantPage
      served={served}
      before={<PlantCalls />}
      hang={tags}
      words={(id) => <Tags small tags={tags(id)} />}
    />
  );
}
function SetHere() {
  const id = Number(useParams().setId);
  const page = useSetPage(id);
  // A page that cannot be read whole is read part by part: each says for itself what is wrong with it.
  return page.isPending ? <Waiting what="Loading pump set" /> : <SetThere id={id} />;
}
const NOTHING: never[] = [];
function SetThere({ id }: { id: number }) {
  const tags = useTagsBySet();
  const past = useTimeline(id).data;
  return (
    <>
      <LiveOver setId={id} />
      <Fetched
        load={SET_PAGE}
        with={{
          offers: (s) => <SetOffers set={s} />,
          begin: (s, part) => <SetBegin set={s} part={part} />,
          hangs: (s) => <Fetched load={SET_HANGS} with={{ set: s }} meanwhile={null} />,
          hung: (set, part) => <PartHung setId={set} part={part} />,
          tags,
          moments: past?.moments ?? NOTHING,
          older: past?.older ?? false,
        }}
      />
    </>
  );
}
function ByLabel() {
  return (
    <BrowserRouter>
      <Routes>
        <Route path="back/:token" element={<Fetched load={BACK_PAGE} with={{}} />} />
      </Routes>
    </BrowserRouter>
  );
}
function Pages() {
  const { me } = useSession();
  // Whoever has a set's label before him is told when it is back, signed in or not.
  if (window.location.pathname.startsWith("/back/")) return <ByLabel />;
  if (!me) return <SignInPage />;
  if (me.must_change)
    return (
      <main className="paper">
        <Fetched load={OWN_SIGN_IN} with={{}} />
      </main>
    );
  return (
    <HotkeysProvider initiallyActiveScopes={[PAGE_KEYS]}>
      <BrowserRouter>
        <Routes>
          <Route element={<Frame />}>
            <Route index element={<PlantHere />} />
            <Route path="sets/:setId" element={<SetHere />} />
            {BENCHES.map((b) => (
              <Route
                key={b.bench}
                path={benchPath(":setId", b.bench).slice(1)}
                element={<BenchPage key={b.bench} def={b} />}
              />
            ))}
            <Route path="call" element={<Fetched load={CALL_PAGE} with={{}} />} />
            <Route path="hand-over" element={<Fetched load={HAND_OVER_PAGE} with={{}} />} />
            <Route path="sets/:setId/parts" element={<Fetched load={PARTS_PAGE} with={{}} />} />
            <Route
              path="records/:recordId"
              element={<Fetched load={RECORD_PAGE} with={{ draw: (r) => <Recorded record={r} /> }} />}
            />
            <Route path="vans" element={<Fetched load={VANS_PAGE} with={{}} />} />
            <Route path="work" element={<Fetched load={WORK_PAGE} with={{}} />} />
            <Route path="stores" element={<Fetched load={STORES_PAGE} with={{}} />} />
            <Route path="stores/:siteId" element={<Fetched load={STORES_PAGE} with={{}} />} />
            <Route path="anatomy/:name" element={<Fetched load={ANATOMY_PAGE} with={{}} />} />
            <Route path="procedures/:siteId" element={<Fetched load={PROCEDURES_PAGE} with={{}} />} />
            <Route
              path="instruments"
              element={
                <Fetched
                  load={INSTRUMENTS_PAGE}
                  with={{ people: <Fetched load={QUALIFIED} with={{}} quiet /> }}
                />
              }
            />
            <Route path="loops/:siteId" element={<Fetched load={LOOPS_PAGE} with={{}} />} />
            <Route path="drives/:siteId" element={<Fetched load={DRIVES_PAGE} with={{}} />} />
            <Route path="register" element={<Fetched load={REGISTER_PAGE} with={{}} />} />
            <Route path="me" element={<Fetched load={OWN_SIGN_IN} with={{}} />} />
            <Route path="readings" element={<Fetched load={READINGS_PAGE} with={{}} />} />
            <Route path="rules" element={<Fetched load={RULES_PAGE} with={{}} />} />
            <Route path="*" element={<NotFound />} />
          </Route>
        </Routes>
      </BrowserRouter>
    </HotkeysProvider>
  );
}
export function App() {
  return (
    <SessionProvider>
      {(loading, failed) =>
        failed ? (
          <div className="paper">
            <BareFailure message={failed.message} />
          </div>
        ) : loading ? (
          <div className="paper">
            <Waiting what="Loading Hurbin" />
          </div>
        ) : (
          <Pages />
        )
      }
    </SessionProvider>
  );
}
function BareFailure({ message }: { message: string }) {
  return (
    <div className="emptyword" role="alert">
      <h1>No connection</h1>
      <p>{message} Retrying automatically.</p>
    </div>
  );
}
