import { Menu, MenuButton, MenuItem, MenuItems } from "@headlessui/react";
import { useQueryClient } from "@tanstack/react-query";
import { Ellipsis } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { api, ask, overtakenBy, whatWentWrong } from "../../api/client";
import type { DesignFull } from "../../api/types";
import { Only, useSay } from "../../app/session";
import { Button, Modal, Notice } from "../../ui";
import { sentence } from "./fields/problems";
import type { Saving } from "./useDraft";

/** The design's name, changed where it stands. */
export function NameField({ name, onRename }: { name: string; onRename: (name: string) => void }) {
  return (
    <input
      aria-label="Name of the design"
      className="min-h-11 w-56 min-w-16 shrink truncate max-[700px]:w-0 max-[700px]:flex-1 rounded-lg border border-transparent bg-transparent px-2 font-semibold hover:border-edge focus:border-edge"
      value={name}
      maxLength={200}
      onChange={(e) => onRename(e.target.value)}
    />
  );
}

/** Whether the draft is safe, in a word. */
export function SavedMark({ saving, dirty }: { saving: Saving; dirty: boolean }) {
  const words: Record<Saving["state"], string> = {
    saved: dirty ? "not saved yet" : "saved",
    saving: "saving…",
    looking: "kept here only",
    waiting: "not saved yet",
    unreachable: "kept here",
    invalid: "kept here, not saved",
    signed_out: "kept here, signed out",
    stale: "set aside",
    failed: "not saved",
  };
  return (
    <span className="shrink-0 text-sm text-quiet max-[900px]:sr-only" role="status" aria-label="Saved or waiting">
      {words[saving.state]}
    </span>
  );
}

/** What stands in the way of saving, and what can be done about it. */
export function SavingNotice({
  saving,
  keeps,
  unreachable,
  id,
  onKeepMine,
  onTake,
}: {
  saving: Saving;
  /** Whether this browser keeps the draft, or need not. */
  keeps: boolean;
  /** Why the server does not answer; empty while it does. */
  unreachable: string;
  id: number;
  onKeepMine: (current: number) => void;
  onTake: (full: DesignFull) => void;
}) {
  const say = useSay();
  if (!keeps)
    return (
      <Notice tone="stop">
        This browser cannot keep your draft: it has no room, or the window is a private one. What is not saved is only in this
        page: leave it open until it says “saved”.
      </Notice>
    );
  if (saving.state === "stale") {
    const theirs = () => ask(api.GET("/api/designs/{design_id}", { params: { path: { design_id: id } } })).then(onTake);
    return (
      <Notice tone="care">
        <span>
          This design was saved elsewhere while you worked. Both are kept: yours as save {saving.kept}, the other as save{" "}
          {saving.current}.
        </span>
        <Button onClick={() => onKeepMine(saving.current)}>Go on with mine</Button>
        <Button onClick={theirs}>Take the other</Button>
      </Notice>
    );
  }
  if (saving.state === "looking")
    return (
      <Notice tone="care">
        As a helper you may try anything out here; it is kept in this browser, not in the shop. A smith of the shop can save
        designs.
      </Notice>
    );
  const away = saving.state === "unreachable" ? saving.why : unreachable;
  if (away) {
    return (
      <Notice tone="care">
        {away}{" "}
        {/kept in this browser/.test(away) ? "" : "Your work is kept in this browser and will be sent as soon as it is back."}
      </Notice>
    );
  }
  if (saving.state === "signed_out") {
    return (
      <Notice tone="care">
        <span>You are signed out. Your work is kept in this browser: sign in again and it goes on.</span>
        <Button onClick={() => window.location.reload()}>Sign in</Button>
      </Notice>
    );
  }
  if (saving.state === "invalid")
    return (
      <Notice tone="care">
        <span>
          This draft cannot be saved as it stands; it is kept in this browser.{" "}
          {saving.problems
            .slice(0, 3)
            .map((p) => say(sentence(p)))
            .join(" ")}
        </span>
      </Notice>
    );
  if (saving.state === "failed")
    return <Notice tone="stop">It could not be saved: {saving.why} It is kept in this browser.</Notice>;
  return null;
}

export function MoreMenu({
  id,
  onHistory,
  onPrint,
  onWhatIf,
  onAbout,
  canPrint,
}: {
  id: number;
  onHistory: () => void;
  onPrint: () => void;
  onWhatIf: () => void;
  onAbout: () => void;
  canPrint: boolean;
}) {
  const item = "block min-h-11 w-full rounded-lg px-3 py-2 text-left data-focus:bg-line/70 data-disabled:opacity-50";
  return (
    <Menu>
      <MenuButton
        aria-label="More about this design"
        title="More"
        className="grid h-11 w-11 shrink-0 place-items-center rounded-lg hover:bg-line/60"
      >
        <Ellipsis size={20} aria-hidden />
      </MenuButton>
      <MenuItems
        anchor={{ to: "bottom end", gap: 4 }}
        className="z-50 w-72 rounded-xl border border-edge bg-well p-1 shadow-xl outline-none"
      >
        <MenuItem>
          <button type="button" className={item} onClick={onWhatIf}>
            What if… <span className="float-right font-mono text-quiet">W</span>
          </button>
        </MenuItem>
        <MenuItem>
          <Link className={item} to={`/compare?a=${id}`}>
            Beside another design or save
          </Link>
        </MenuItem>
        <MenuItem>
          <button type="button" className={item} onClick={onHistory}>
            Earlier saves…
          </button>
        </MenuItem>
        <MenuItem disabled={!canPrint}>
          <button type="button" className={item} onClick={onPrint}>
            Print-size face…
          </button>
        </MenuItem>
        <MenuItem>
          <button type="button" className={item} onClick={onAbout}>
            Describe it…
          </button>
        </MenuItem>
        <MenuItem>
          <a className={item} href={`/api/designs/${id}/design.json`}>
            Save the design file
            <span className="block text-sm text-quiet">everything in it</span>
          </a>
        </MenuItem>
        <MenuItem>
          <a className={item} href={`/api/designs/${id}/recipe.json`}>
            Save the recipe file
          </a>
        </MenuItem>
        <MenuItem>
          <a className={item} href={`/api/designs/${id}/blade.json`}>
            Save the blade file
          </a>
        </MenuItem>
        <MenuItem>
          <button type="button" className={item} onClick={() => window.print()}>
            Print this page
          </button>
        </MenuItem>
      </MenuItems>
    </Menu>
  );
}

/** What is said of the design on the bench. */
export function About({ design, open, onClose }: { design: DesignFull; open: boolean; onClose: () => void }) {
  const [text, setText] = useState(design.about);
  const [base, setBase] = useState(design.mark);
  const [problem, setProblem] = useState("");
  const queries = useQueryClient();
  const keep = () =>
    ask(api.PATCH("/api/designs/{design_id}", { params: { path: { design_id: design.id } }, body: { about: text, base } }))
      .then(() => {
        queries.invalidateQueries({ queryKey: ["designs"] });
        onClose();
      })
      .catch((e) => {
        const mark = overtakenBy(e);
        if (mark === null) return setProblem(whatWentWrong(e));
        setBase(mark);
        queries.invalidateQueries({ queryKey: ["designs"] });
        setProblem(
          "Somebody changed this text in the meantime. Keep it again to put yours in its place, or close this to leave theirs.",
        );
      });
  return (
    <Modal open={open} onClose={onClose} title="What it is">
      <label className="block">
        <span className="mb-0.5 block text-sm text-quiet">Shown on the bench, and kept in the design file</span>
        <textarea
          className="block min-h-28 w-full rounded-lg border border-edge bg-well px-3 py-2"
          maxLength={400}
          value={text}
          onChange={(e) => setText(e.target.value)}
        />
      </label>
      {problem ? <Notice tone="stop">{problem}</Notice> : null}
      <div className="mt-3 flex justify-end">
        <Only needs="smith">
          <Button kind="main" onClick={() => void keep()}>
            Keep it
          </Button>
        </Only>
      </div>
    </Modal>
  );
}
