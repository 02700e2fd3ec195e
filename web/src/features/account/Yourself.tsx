import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Monitor, Smartphone } from "lucide-react";
import { type FormEvent, useRef } from "react";
import { api, ask, whatWentWrong } from "../../api/client";
import { useSession } from "../../app/session";
import { Button, Notice } from "../../ui";
import { useToast } from "../../ui/toast";
import { PasswordField } from "./PasswordField";
import { SecondSign } from "./SecondSign";

const BROWSERS = ["browsers"];

function when(at: string): string {
  return new Date(at).toLocaleString(undefined, { day: "numeric", month: "long", hour: "2-digit", minute: "2-digit" });
}

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
      void again();
    },
  });
  const queries = useQueryClient();
  const browsers = useQuery({ queryKey: BROWSERS, queryFn: () => ask(api.GET("/api/session/browsers")) });
  const again = () => queries.invalidateQueries({ queryKey: BROWSERS });
  const one = useMutation({
    mutationFn: (key: string) => ask(api.DELETE("/api/session/browsers/{key}", { params: { path: { key } } })),
    onSettled: again,
    onError: (e) => toast(whatWentWrong(e)),
  });
  const elsewhere = useMutation({
    mutationFn: () => ask(api.POST("/api/session/sign-out-elsewhere")),
    onSuccess: ({ ended }) =>
      toast(ended ? `Signed out of ${ended} other ${ended === 1 ? "browser" : "browsers"}.` : "You are signed in nowhere else."),
    onError: (e) => toast(whatWentWrong(e)),
    onSettled: again,
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
      {session.password_changed ? (
        <Notice tone="care">
          Your password was changed on {when(session.password_changed)}, before you signed in here. If that was not you, have the
          owner of the server give you a new one.
        </Notice>
      ) : null}
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
      <SecondSign />
      <ul aria-label="Where you are signed in" className="mt-4">
        {browsers.data?.map((b) => (
          <li key={b.key} className="flex min-h-11 flex-wrap items-center gap-3 border-t border-line py-1">
            {b.held ? <Smartphone size={18} aria-hidden /> : <Monitor size={18} aria-hidden />}
            <span>{b.held ? "A phone or tablet" : "A computer"}</span>
            <span className="text-sm text-quiet">
              {b.since ? `since ${when(b.since)}` : "since some time ago"}
              {b.address ? `, from ${b.address}` : ""}
            </span>
            <span className="ml-auto">
              {b.here ? (
                <span className="px-4 text-sm text-quiet">this one</span>
              ) : (
                <Button kind="quiet" disabled={one.isPending} onClick={() => one.mutate(b.key)}>
                  Sign it out
                </Button>
              )}
            </span>
          </li>
        ))}
      </ul>
      <p className="mt-3 flex flex-wrap items-center gap-3">
        <Button kind="quiet" disabled={elsewhere.isPending} onClick={() => elsewhere.mutate()}>
          Sign out everywhere else
        </Button>
        <span className="text-sm text-quiet">after a lost tablet or phone; this browser stays signed in</span>
      </p>
    </section>
  );
}
