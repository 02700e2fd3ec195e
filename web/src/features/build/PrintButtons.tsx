import { FileText, Flame, QrCode, Ruler, Scissors } from "lucide-react";
import { useState } from "react";
import { api, ask, keepFile, post, saveFile, whatWentWrong } from "../../api/client";
import type { Document, Operation, PlannedOperation } from "../../api/types";
import { useSay, useUnits } from "../../app/session";
import { Button, Segments } from "../../ui";
import { useToast } from "../../ui/toast";
import { type PaperSize, saidOf, usualPaper } from "./paper";

/** A sheet of the route, or of one kind of operation in it. */
type Part = { name: string; kind?: string };
const WHOLE: Part = { name: "sheet" };
const HARDENING: Part = { name: "hardening", kind: "harden" };
const CUTS: Part = { name: "cutting", kind: "cut_stock" };

/** To paper: the shop sheet, what of it goes to the saw and to the kiln, the blade to its own size, a label. */
export function PrintButtons({
  title,
  lines,
  operations,
  document,
  pieces,
  build,
}: {
  title: string;
  lines: string[];
  /** Fetched when they are asked for, where they are not known yet. */
  operations: (Operation | PlannedOperation)[] | (() => Promise<PlannedOperation[]>);
  document: () => Promise<Document>;
  /** What is to be cut, where that is known. */
  pieces?: { says: string; section: string; length: string; count: string }[];
  build?: number;
}) {
  const [paper, setPaper] = useState<PaperSize>(() => usualPaper(navigator.language));
  const [busy, setBusy] = useState(false);
  const say = useSay();
  const units = useUnits();
  const toast = useToast();
  const run = (making: () => Promise<void>) => {
    setBusy(true);
    making()
      .catch((e) => toast(whatWentWrong(e)))
      .finally(() => setBusy(false));
  };
  const sheet = async (part: Part) => {
    const all = typeof operations === "function" ? await operations() : operations;
    const mine = all.filter((o) => !part.kind || o.kind === part.kind);
    if (!mine.length) return toast(`There is no ${part.name} in this plan.`);
    const body = {
      title,
      lines: part.kind ? [...lines, `${part.name} only`] : lines,
      about: "",
      paper,
      pieces: part === HARDENING ? [] : (pieces ?? []).map((p) => ({ ...p, says: say(p.says) })),
      operations: mine.map((o) => saidOf(o, say, units)),
    };
    keepFile(await (await post("/api/paper/sheet.pdf", body)).blob(), `${title} ${part.name}.pdf`);
  };
  const drawing = async () => {
    await saveFile("/api/paper/template.pdf", { document: await document(), title, paper }, `${title} 1-1.pdf`);
  };
  const label = async () => {
    const body = await ask(
      api.GET("/api/builds/{build_id}/label.pdf", { params: { path: { build_id: build ?? 0 } }, parseAs: "blob" }),
    );
    keepFile(body as unknown as Blob, `${title} label.pdf`);
  };
  return (
    <section aria-label="On paper" className="flex flex-wrap items-center gap-2">
      <div className="w-40">
        <Segments<PaperSize>
          label="Paper"
          value={paper}
          options={[
            { value: "a4", label: "A4" },
            { value: "letter", label: "Letter" },
          ]}
          onChange={setPaper}
        />
      </div>
      <Button disabled={busy} onClick={() => run(() => sheet(WHOLE))}>
        <FileText size={18} aria-hidden /> Shop sheet
      </Button>
      {pieces?.length ? (
        <Button disabled={busy} onClick={() => run(() => sheet(CUTS))}>
          <Scissors size={18} aria-hidden /> What to cut
        </Button>
      ) : null}
      <Button disabled={busy} onClick={() => run(() => sheet(HARDENING))}>
        <Flame size={18} aria-hidden /> Hardening
      </Button>
      <Button disabled={busy} onClick={() => run(drawing)}>
        <Ruler size={18} aria-hidden /> Blade 1:1
      </Button>
      {build !== undefined ? (
        <Button disabled={busy} onClick={() => run(label)}>
          <QrCode size={18} aria-hidden /> Label
        </Button>
      ) : null}
    </section>
  );
}
