import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Upload } from "lucide-react";
import { useEffect, useState } from "react";
import { Link, useSearchParams } from "react-router";
import { api, ask, post, whatWentWrong } from "../../api/client";
import type { Build } from "../../api/types";
import { Only, useSay, useSession } from "../../app/session";
import { percent } from "../../lib/units";
import { FilePick, Notice, SearchField, Segments } from "../../ui";
import { useToast } from "../../ui/toast";
import { keepShell } from "../build/offline";
import { packsOf } from "../build/shelf";
import { buildAddress } from "../build/where";
import { hoursText } from "../design/stock/time";
import { BookCharts } from "./BookCharts";
import { LearnedNumbers } from "./Learned";
import { Orders } from "./Orders";
import { dueText, found, isOf, type Which, yieldOf } from "./words";

const WHICH: { value: Which; label: string }[] = [
  { value: "on", label: "going on" },
  { value: "done", label: "done" },
  { value: "all", label: "all" },
];
type Tab = "builds" | "orders" | "learned";
const TABS: { value: Tab; label: string }[] = [
  { value: "builds", label: "builds" },
  { value: "orders", label: "orders" },
  { value: "learned", label: "what it teaches" },
];
const SHOWN = 60;

/** All builds of the shop: what goes on, what is done, where steel and hours went. */
export function Book() {
  const [query, setQuery] = useSearchParams();
  const show = query.get("show");
  const tab = TABS.find((t) => t.value === show)?.value ?? "builds";
  useEffect(keepShell, []);
  return (
    <main className="min-h-0 flex-1 overflow-y-auto px-6 py-4 max-[700px]:px-3">
      <div className="mx-auto max-w-6xl">
        <div className="mb-3 flex flex-wrap items-center gap-4">
          <h1 className="text-2xl font-bold">The book</h1>
          <div className="w-96 max-w-full">
            <Segments<Tab>
              snug
              label="What of the book"
              value={tab}
              options={TABS}
              onChange={(t) => setQuery(t === "builds" ? {} : { show: t }, { replace: true })}
            />
          </div>
          {tab === "builds" ? (
            <Only needs="smith">
              <ReadIn />
            </Only>
          ) : null}
        </div>
        {tab === "orders" ? <Orders /> : tab === "learned" ? <LearnedNumbers /> : <Builds />}
      </div>
    </main>
  );
}

/** A build from its file. */
function ReadIn() {
  const queries = useQueryClient();
  const toast = useToast();
  const read = (file: File) => {
    const form = new FormData();
    form.set("file", file);
    post("/api/builds/file.zip", form)
      .then(async (answer) => {
        const made = (await answer.json()) as Build;
        void queries.invalidateQueries({ queryKey: ["book"] });
        toast(`Read: ${made.title}.`);
      })
      .catch((e) => toast(whatWentWrong(e)));
  };
  return (
    <FilePick label="Read a build from its file" field="File of a build" accept=".zip,application/zip" onPick={read}>
      <Upload size={18} aria-hidden />
    </FilePick>
  );
}

/** The book from the server; without it, the builds this tablet has kept. */
function useBook() {
  const { session } = useSession();
  const user = session.user ?? "";
  const shop = session.shop?.id;
  const book = useQuery({ queryKey: ["book"], queryFn: () => ask(api.GET("/api/builds")), refetchOnMount: "always" });
  const here = useQuery({
    queryKey: ["book-here", user, shop],
    queryFn: () => packsOf(user).then((all) => all.filter((p) => p.shop === shop).map((p) => p.info)),
    enabled: !!book.error && !book.data,
  });
  return { builds: (book.data?.builds ?? here.data) as Build[] | undefined, error: book.error, away: !book.data && !!here.data };
}

function Builds() {
  const { builds, error, away } = useBook();
  const [wanted, setWanted] = useState("");
  const [which, setWhich] = useState<Which | null>(null);
  const [more, setMore] = useState(SHOWN);
  const all = builds ?? [];
  const shownWhich = which ?? (all.some((b) => isOf(b, "on")) ? "on" : "all");
  const list = all.filter((b) => isOf(b, shownWhich) && found(b, wanted));
  return (
    <>
      {away ? (
        <Notice tone="care">
          The server cannot be reached. These builds are kept on this tablet: go on with them; what you write is sent later.
        </Notice>
      ) : error && !builds ? (
        <Notice tone="stop">{whatWentWrong(error)}</Notice>
      ) : null}
      {builds && !all.length ? <Empty /> : null}
      {!builds && !error ? <p className="animate-pulse text-quiet">Opening the book…</p> : null}
      {all.length ? (
        <>
          <div className="mb-3 flex flex-wrap items-center gap-3">
            <SearchField
              label="Find a build"
              says="Find: name, for whom, fault…"
              value={wanted}
              onChange={setWanted}
              className="w-64"
            />
            <div className="w-72">
              <Segments<Which> label="Which builds" value={shownWhich} options={WHICH} onChange={setWhich} />
            </div>
          </div>
          <ul className="flex flex-col gap-2">
            {list.slice(0, more).map((b) => (
              <Line key={b.id} build={b} />
            ))}
          </ul>
          {list.length > more ? (
            <button type="button" className="min-h-11 underline" onClick={() => setMore(more + SHOWN)}>
              Show more: {list.length - more} are left
            </button>
          ) : null}
          {list.length ? null : <p className="py-6 text-center text-quiet">No build is like that.</p>}
          <BookCharts builds={all.filter((b) => isOf(b, "done"))} />
        </>
      ) : null}
    </>
  );
}

function Line({ build }: { build: Build }) {
  const s = build.summary;
  const share = yieldOf(build);
  const going = isOf(build, "on");
  const say = useSay();
  return (
    <li className="[contain-intrinsic-size:auto_92px] [content-visibility:auto]">
      <Link
        to={buildAddress(build.id, going ? "sheet" : "sum")}
        className="grid grid-cols-[11rem_minmax(0,1fr)_auto] items-center gap-4 rounded-xl border border-line bg-panel p-2 hover:border-edge max-[700px]:grid-cols-[5.5rem_minmax(0,1fr)]"
      >
        <span className="grid h-18 place-items-center overflow-hidden rounded-lg bg-plate">
          <img src={build.picture} alt="" loading="lazy" className="max-h-16 w-full object-contain p-1" />
        </span>
        <span className="min-w-0">
          <span className="block truncate text-lg font-bold">{build.title}</span>
          <span className="block truncate text-quiet">
            {going && s.next ? (
              <>
                next: <span className="text-ink">{say(s.next)}</span>
              </>
            ) : (
              [build.state, s.faults.length ? `${s.faults.length} went wrong` : ""].filter(Boolean).join(" · ")
            )}
          </span>
          <span className="mt-1 flex items-center gap-2 text-sm text-quiet">
            <span className="h-1.5 w-32 overflow-hidden rounded-full bg-line">
              <span
                className="block h-full bg-accent"
                style={{ width: `${(100 * (s.done + s.skipped)) / Math.max(1, s.total)}%` }}
              />
            </span>
            {s.done} of {s.total}
            {build.state === "resting" ? " · resting" : ""}
          </span>
        </span>
        <span className="text-right text-sm max-[700px]:col-start-2 max-[700px]:text-left">
          {build.who ? <span className="block">for {build.who}</span> : null}
          {build.due && going ? (
            <span className={`block ${dueText(build.due).late ? "text-care" : ""}`}>{dueText(build.due).text}</span>
          ) : null}
          {s.took ? <span className="block text-quiet">{hoursText(s.took)} so far</span> : null}
          {share !== null ? <span className="block text-quiet">yield {percent(share)}</span> : null}
        </span>
      </Link>
    </li>
  );
}

function Empty() {
  return (
    <div className="mx-auto mt-16 max-w-lg text-center">
      <h2 className="mb-2 text-xl font-bold">Nothing was begun yet</h2>
      <p className="mb-4 text-quiet">
        Open a design, go to its Build, and begin. The shop sheet then leads through the work, one operation at a time, also where
        there is no network; what is measured comes back into the plan; and this book fills with what every blade has taught.
      </p>
      <Link className="inline-flex min-h-11 items-center rounded-lg bg-accent px-4 font-semibold text-on-accent" to="/bench">
        To the designs
      </Link>
    </div>
  );
}
