import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask } from "../../api/client";
import type { Session } from "../../api/types";
import { SESSION_KEY, useSession } from "../../app/session";
import { Button, Notice } from "../../ui";

/** The door: one button in the demo, name and password otherwise. */
export function SignIn() {
  const { session } = useSession();
  const queries = useQueryClient();
  const [problem, setProblem] = useState("");
  const [busy, setBusy] = useState(false);
  const enter = (asking: Promise<Session>) => {
    setBusy(true);
    setProblem("");
    asking
      .then((s) => queries.setQueryData(SESSION_KEY, s))
      .catch((e: Error) => setProblem(e.message))
      .finally(() => setBusy(false));
  };
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    const form = new FormData(e.currentTarget);
    const body = { user: String(form.get("user") ?? ""), password: String(form.get("password") ?? "") };
    enter(ask(api.POST("/api/session/sign-in", { body })));
  };
  const field = "mt-0.5 block min-h-11 w-full rounded-lg border border-edge bg-well px-3 text-base text-ink";
  return (
    <main className="grid h-dvh place-items-center overflow-y-auto p-4">
      <div className="w-full max-w-md rounded-2xl border border-line bg-panel p-8">
        <div className="mb-1 flex items-center gap-3">
          <img src="/static/mark.svg" alt="" width={44} height={44} />
          <h1 className="text-3xl font-bold">Varistrat</h1>
        </div>
        <p className="mb-6 text-quiet">See the etched blade before you light the forge.</p>
        {session.demo ? (
          <div className="mb-6 rounded-xl border border-line p-4">
            <p className="mb-3">
              Look around in <strong>Quillet Dyke Forge</strong>, a made-up shop that keeps the reed cutters and basketmakers of
              the Wendlemarsh in blades.
            </p>
            <Button kind="main" disabled={busy} onClick={() => enter(ask(api.POST("/api/session/demo")))}>
              Enter the demo shop
            </Button>
          </div>
        ) : null}
        <form onSubmit={submit} className="flex flex-col gap-3">
          <label className="text-sm text-quiet">
            Name
            <input name="user" autoComplete="username" required className={field} />
          </label>
          <label className="text-sm text-quiet">
            Password
            <input name="password" type="password" autoComplete="current-password" required className={field} />
          </label>
          {problem ? <Notice tone="stop">{problem}</Notice> : null}
          <Button type="submit" kind={session.demo ? "plain" : "main"} disabled={busy}>
            Sign in
          </Button>
        </form>
      </div>
    </main>
  );
}
