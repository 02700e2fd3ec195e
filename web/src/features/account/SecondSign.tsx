import { useMutation, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, whatWentWrong } from "../../api/client";
import { SESSION_KEY, useSession } from "../../app/session";
import { Button, Notice } from "../../ui";
import { useToast } from "../../ui/toast";
import { CodeField } from "./CodeField";
import { PasswordField } from "./PasswordField";

const said = (e: FormEvent<HTMLFormElement>, name: string) => {
  e.preventDefault();
  return String(new FormData(e.currentTarget).get(name) ?? "");
};

/** A code of one's phone at every sign-in: set up, confirmed, its spare codes shown once, ended. */
export function SecondSign() {
  const { session } = useSession();
  const queries = useQueryClient();
  const toast = useToast();
  const [open, setOpen] = useState(false);
  const left = session.spare_codes ?? null;
  const fresh = () => queries.invalidateQueries({ queryKey: SESSION_KEY });
  const begin = useMutation({
    mutationFn: (password: string) => ask(api.POST("/api/session/second/begin", { body: { password } })),
  });
  const confirm = useMutation({
    mutationFn: (code: string) => ask(api.POST("/api/session/second", { body: { code } })),
    onSuccess: () => {
      begin.reset();
      void fresh();
    },
  });
  const end = useMutation({
    mutationFn: (password: string) => ask(api.POST("/api/session/second/end", { body: { password } })),
    onSuccess: (s) => {
      queries.setQueryData(SESSION_KEY, s);
      setOpen(false);
      toast("No code is asked for any more.");
    },
  });
  const stop = () => {
    for (const m of [begin, confirm, end]) m.reset();
    setOpen(false);
  };
  const error = begin.error ?? confirm.error ?? end.error;
  return (
    <section aria-labelledby="second" className="mt-4 border-t border-line pt-4">
      <h3 id="second" className="font-semibold">
        A code of your phone
      </h3>
      {session.code_needed ? (
        <Notice tone="care">
          This server asks owners for a code. Until you have set one up here you can look at the shop, but not change who works in
          it or what is the shop's own.
        </Notice>
      ) : null}
      {error ? <Notice tone="stop">{whatWentWrong(error)}</Notice> : null}
      {confirm.data ? (
        <Spare codes={confirm.data.spare} onDone={stop} />
      ) : begin.data ? (
        <form onSubmit={(e) => confirm.mutate(said(e, "code"))} className="mt-2 flex flex-wrap gap-5">
          <img
            src={begin.data.picture}
            alt="For your phone's app: the key, to be read off"
            width={200}
            height={200}
            className="size-50 rounded-lg bg-white"
          />
          <div className="flex min-w-60 flex-1 flex-col gap-3">
            <p className="text-sm">
              Open an app for sign-in codes on your phone and let it read the picture, or type the key:
              <span className="mt-1 block font-mono break-words">{begin.data.secret}</span>
            </p>
            <CodeField label="The code that it shows now" says="six digits; a new one every half minute" />
            <span className="flex gap-2">
              <Button type="submit" kind="main" disabled={confirm.isPending}>
                Ask for it from now on
              </Button>
              <Button kind="quiet" onClick={stop}>
                Leave it
              </Button>
            </span>
          </div>
        </form>
      ) : open ? (
        <form
          onSubmit={(e) => (left === null ? begin : end).mutate(said(e, "password"))}
          className="mt-2 flex flex-wrap items-end gap-3"
        >
          <div className="min-w-60 flex-1">
            <PasswordField label="Your password, once more" />
          </div>
          <Button type="submit" disabled={begin.isPending || end.isPending}>
            {left === null ? "Go on" : "Ask for no code any more"}
          </Button>
          <Button kind="quiet" onClick={stop}>
            Leave it
          </Button>
        </form>
      ) : (
        <p className="mt-1 flex flex-wrap items-center gap-3">
          <Button onClick={() => setOpen(true)}>{left === null ? "Set it up" : "End it"}</Button>
          <span className="min-w-60 flex-1 text-sm text-quiet">
            {left === null
              ? "asked for beside your password, so that a password alone lets nobody in"
              : `is asked for when you sign in; ${left} spare ${left === 1 ? "code" : "codes"} left${left < 3 ? ": end it and set it up again for new ones" : ""}`}
          </span>
        </p>
      )}
    </section>
  );
}

/** Shown once. */
function Spare({ codes, onDone }: { codes: string[]; onDone: () => void }) {
  const toast = useToast();
  const copy = () =>
    navigator.clipboard.writeText(codes.join("\n")).then(
      () => toast("Copied."),
      () => toast("This browser lets nothing be copied: write them down."),
    );
  return (
    <div className="mt-2">
      <p>
        A code is asked for from now on; other browsers were signed out. <strong>Write these down, on paper, now</strong>: each
        lets you in once without the phone, and they are not shown again.
      </p>
      <ul aria-label="Spare codes" className="my-3 grid gap-x-6 gap-y-1 font-mono min-[700px]:grid-cols-2">
        {codes.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
      <span className="flex gap-2">
        <Button kind="main" onClick={onDone}>
          I have them on paper
        </Button>
        <Button kind="quiet" onClick={() => void copy()}>
          Copy them
        </Button>
      </span>
    </div>
  );
}
