import { useMutation } from "@tanstack/react-query";
import { type FormEvent, useRef } from "react";
import { api, ask, whatWentWrong } from "../../api/client";
import { useSession } from "../../app/session";
import { Button, Notice } from "../../ui";
import { useToast } from "../../ui/toast";
import { PasswordField } from "./PasswordField";

/** One's own password, and the other browsers one is signed in with. */
export function Yourself() {
  const { session } = useSession();
  const toast = useToast();
  const form = useRef<HTMLFormElement>(null);
  const change = useMutation({
    mutationFn: (body: { old: string; password: string }) => ask(api.POST("/api/session/password", { body })),
    onSuccess: () => {
      form.current?.reset();
      toast("Your password is changed. Other browsers ask for the new one.");
    },
  });
  const elsewhere = useMutation({
    mutationFn: () => ask(api.POST("/api/session/sign-out-elsewhere")),
    onSuccess: ({ ended }) =>
      toast(ended ? `Signed out of ${ended} other ${ended === 1 ? "browser" : "browsers"}.` : "You are signed in nowhere else."),
    onError: (e) => toast(whatWentWrong(e)),
  });
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    const said = new FormData(e.currentTarget);
    change.mutate({ old: String(said.get("old") ?? ""), password: String(said.get("password") ?? "") });
  };
  return (
    <section aria-labelledby="yourself" className="rounded-2xl border border-line bg-panel p-5">
      <h2 id="yourself" className="mb-2 text-lg font-bold">
        You, {session.user}
      </h2>
      {change.error ? <Notice tone="stop">{whatWentWrong(change.error)}</Notice> : null}
      <form ref={form} onSubmit={submit} className="grid gap-3 min-[700px]:grid-cols-[1fr_1fr_auto] min-[700px]:items-start">
        <PasswordField label="Your password" name="old" />
        <PasswordField label="A new one, of twelve characters or more" fresh />
        <span className="min-[700px]:pt-5">
          <Button type="submit" disabled={change.isPending}>
            Change it
          </Button>
        </span>
      </form>
      <p className="mt-3 flex flex-wrap items-center gap-3">
        <Button kind="quiet" disabled={elsewhere.isPending} onClick={() => elsewhere.mutate()}>
          Sign out everywhere else
        </Button>
        <span className="text-sm text-quiet">after a lost tablet or phone; this browser stays signed in</span>
      </p>
    </section>
  );
}
