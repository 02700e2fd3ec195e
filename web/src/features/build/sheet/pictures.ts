import { useEffect, useState } from "react";
import type { Build, Operation } from "../../../api/types";
import { keepPicture, pictureOf } from "../shelf";
import { useBuild } from "../useBuild";

/** One picture of a build: its name on this tablet, and where it comes from. */
export type Wanted = { name: string; address: string; mark: string };

/** The bar after so many steps; the blade where there is no bar. */
export function wanted(info: Build, op: Operation, when: "before" | "after"): Wanted | null {
  const mark = `plan ${info.plan}`;
  const stage = when === "before" ? op.before : op.stage;
  if (op.bar && stage !== null && stage !== undefined) {
    const path = `/api/builds/${info.id}/bars/${op.bar}/${stage}/side.png`;
    return { name: `${op.bar}-${stage}`, address: `${path}?plan=${info.plan}`, mark };
  }
  if (!op.bar && when === "after") return { name: "blade", address: `/api/builds/${info.id}/picture.png`, mark };
  return null;
}

async function fetched({ address }: Wanted): Promise<Blob | null> {
  const answer = await fetch(address, { credentials: "same-origin" }).catch(() => null);
  return answer?.ok ? answer.blob() : null;
}

/** As this tablet keeps it, or fetched and kept; an address to show it by. */
export function useKeptPicture(picture: Wanted | null): string | null {
  const { keeper } = useBuild();
  const [url, setUrl] = useState<string | null>(null);
  const { user, build } = keeper;
  const { name, address, mark } = picture ?? { name: "", address: "", mark: "" };
  useEffect(() => {
    let over = false;
    let made = "";
    const show = (blob: Blob) => {
      if (over) return;
      made = URL.createObjectURL(blob);
      setUrl(made);
    };
    const look = async () => {
      if (!name) return;
      const kept = await pictureOf(user, build, name).catch(() => undefined);
      if (kept) show(kept.blob);
      if (kept?.mark === mark) return;
      const blob = await fetched({ name, address, mark });
      if (!blob) return;
      await keepPicture({ user, build, name, mark, blob }).catch(() => undefined);
      if (!kept) show(blob);
    };
    setUrl(null);
    void look();
    return () => {
      over = true;
      if (made) URL.revokeObjectURL(made);
    };
  }, [user, build, name, address, mark]);
  return url;
}

/** All pictures of the route, fetched one after another while there is a network: for when there is none. */
export function useKeptPictures(): void {
  const { route, info, keeper, known } = useBuild();
  const here = known.link === "here";
  const { user, build } = keeper;
  useEffect(() => {
    if (!here) return;
    let over = false;
    const all = new Map<string, Wanted>();
    for (const op of route) {
      for (const when of ["before", "after"] as const) {
        const w = wanted(info, op, when);
        if (w) all.set(w.name, w);
      }
    }
    const fetchAll = async () => {
      for (const w of all.values()) {
        if (over) return;
        const kept = await pictureOf(user, build, w.name).catch(() => null);
        if (kept === null) return;
        if (kept?.mark === w.mark) continue;
        const blob = await fetched(w);
        if (blob) await keepPicture({ user, build, name: w.name, mark: w.mark, blob }).catch(() => undefined);
      }
    };
    const soon = window.setTimeout(() => void fetchAll(), 1500);
    return () => {
      over = true;
      window.clearTimeout(soon);
    };
  }, [here, route, info, user, build]);
}
