import { useEffect, useMemo } from "react";
import { Link, NavLink } from "react-router";
import { PLACE_LINK } from "../../app/Header";
import { useTitle } from "../../lib/title";
import { Notice } from "../../ui";
import { useFaultSubject } from "../faults/subject";
import { BuildBar } from "./BuildBar";
import { BuildFinish } from "./finish/BuildFinish";
import { BuildLog } from "./log/BuildLog";
import { keepShell } from "./offline";
import { PhotosTab } from "./photo/PhotosTab";
import { SheetTab } from "./sheet/SheetTab";
import { SumUp } from "./sum/SumUp";
import { TimerStrip } from "./TimerStrip";
import { BuildProvider, useKeeper } from "./useBuild";
import { buildAddress, useWhere } from "./where";

const TABS = [
  { tab: "sheet", name: "Shop sheet", Page: SheetTab },
  { tab: "log", name: "Log", Page: BuildLog },
  { tab: "photos", name: "Photos", Page: PhotosTab },
  { tab: "finish", name: "Finish", Page: BuildFinish },
  { tab: "sum", name: "Sum-up", Page: SumUp },
] as const;

/** A build: what is known of it here or there, its places around it. */
export function BuildPage() {
  const { id, tab } = useWhere();
  const [keeper, known] = useKeeper(id);
  const { info, told, link } = known;
  // the build first: the shell is two megabytes
  const there = told !== null;
  useTitle(info?.title, TABS.find((t) => t.tab === tab)?.name ?? TABS[0].name);
  useFaultSubject(useMemo(() => (link === "here" ? { build: id } : {}), [id, link]));
  useEffect(() => {
    if (there) keepShell();
  }, [there]);
  if (!Number.isInteger(id) || (link === "absent" && !info))
    return (
      <main className="grid flex-1 place-items-center p-8 text-center">
        <div>
          <h1 className="mb-2 text-2xl font-bold">There is no such build in your book</h1>
          <p className="mb-4 text-quiet">It may have been taken away, or it belongs to another shop.</p>
          <Link className="inline-flex min-h-11 items-center rounded-lg bg-accent px-4 font-semibold text-on-accent" to="/book">
            To the book
          </Link>
        </div>
      </main>
    );
  if (!info || !told)
    return (
      <main className="grid flex-1 place-items-center p-8 text-center">
        {link === "away" ? (
          <p>
            The server cannot be reached, and this tablet has not kept this build.
            <br />
            <span className="text-quiet">Open it once while there is a network: from then on it works without.</span>
          </p>
        ) : (
          <p className="animate-pulse text-quiet">Fetching the build…</p>
        )}
      </main>
    );
  const Page = TABS.find((t) => t.tab === tab)?.Page ?? SheetTab;
  return (
    <BuildProvider keeper={keeper} known={known} info={info} told={told}>
      <BuildBar>
        {TABS.map((t) => (
          <NavLink key={t.tab} to={buildAddress(id, t.tab)} className={PLACE_LINK} aria-current={tab === t.tab ? "page" : false}>
            {t.name}
          </NavLink>
        ))}
      </BuildBar>
      <TimerStrip />
      {told.wrong ? (
        <Notice tone="care">Its plan can no longer be worked out: {told.wrong}. What was written down stays.</Notice>
      ) : null}
      <Page />
    </BuildProvider>
  );
}
