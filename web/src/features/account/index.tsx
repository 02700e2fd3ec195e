import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api, ask, Problem } from "../../api/client";
import type { Role, Session } from "../../api/types";
import { SESSION_KEY, useSession } from "../../app/session";
import { Button, Notice } from "../../ui";
import { CodeField } from "./CodeField";
import { DOOR_FIELD, Door } from "./Door";
import { PasswordField } from "./PasswordField";

export { Join } from "./Join";

/** The door: one button in the demo, name and password otherwise. */
export function SignIn() {
  const { session } = useSession();
  const queries = useQueryClient();
  const [problem, setProblem] = useState("");
  const [busy, setBusy] = useState(false);
  const [code, setCode] = useState(false);
  const enter = (asking: Promise<Session>) => {
    setBusy(true);
    setProblem("");
    asking
      .then((s) => queries.setQueryData(SESSION_KEY, s))
      .catch((e: Error) => {
        const wanted = e instanceof Problem && e.body.code === "code_wanted";
        // asked for the first time it is no fault
        setProblem(wanted && !code ? "" : e.message);
        if (wanted || !(e instanceof Problem && e.status === 429)) setCode(wanted);
      })
      .finally(() => setBusy(false));
  };
  const demo = (role: Role) => enter(ask(api.POST("/api/session/demo", { params: { query: { role } } })));
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    const form = new FormData(e.currentTarget);
    const body = {
      user: String(form.get("user") ?? ""),
      password: String(form.get("password") ?? ""),
      code: String(form.get("code") ?? ""),
    };
    enter(ask(api.POST("/api/session/sign-in", { body })));
  };
  return (
    <Door>
      {session.demo ? (
        <div className="mb-6 rounded-xl border border-line p-4">
          <p className="mb-3">
            Look around in <strong>Quillet Dyke Forge</strong>, a made-up shop that keeps the reed cutters and basketmakers of the
            Wendlemarsh in blades.
          </p>
          <div className="flex flex-wrap items-center gap-2">
            <Button kind="main" disabled={busy} onClick={() => demo("owner")}>
              Enter the demo shop
            </Button>
            <Button kind="quiet" disabled={busy} onClick={() => demo("helper")}>
              as its helper
            </Button>
          </div>
        </div>
      ) : null}
      <form onSubmit={submit} className="flex flex-col gap-3">
        <label className="text-sm text-quiet">
          Name
          <input name="user" autoComplete="username" required className={DOOR_FIELD} />
        </label>
        <PasswordField label="Password" />
        {code ? (
          <CodeField
            label="Code of your phone"
            says="six digits; a new one every half minute. Without the phone: a spare code."
          />
        ) : null}
        {problem ? <Notice tone="stop">{problem}</Notice> : null}
        <Button type="submit" kind={session.demo ? "plain" : "main"} disabled={busy}>
          Sign in
        </Button>
      </form>
    </Door>
  );
}
