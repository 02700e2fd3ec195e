import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { FormEvent } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, ask, whatWentWrong } from "../../api/client";
import { SESSION_KEY, useSession } from "../../app/session";
import { Button, Notice } from "../../ui";
import { DOOR_FIELD, Door } from "./Door";
import { PasswordField } from "./PasswordField";

/** Behind an invite's link: join as whoever is signed in, or as somebody new. */
export function Join() {
  const token = useParams().token ?? "";
  const { session } = useSession();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const path = { params: { path: { token } } };
  const invite = useQuery({
    queryKey: ["invite", token],
    queryFn: () => ask(api.GET("/api/invites/{token}", path)),
    retry: false,
  });
  const join = useMutation({
    mutationFn: (body: { user?: string; password?: string }) => ask(api.POST("/api/invites/{token}/join", { ...path, body })),
    onSuccess: async () => {
      // all that was fetched was of another shop
      queries.removeQueries({ predicate: (q) => q.queryKey[0] !== SESSION_KEY[0] });
      await queries.invalidateQueries({ queryKey: SESSION_KEY });
      navigate("/");
    },
  });
  const submit = (e: FormEvent<HTMLFormElement>) => {
    e.preventDefault();
    const form = new FormData(e.currentTarget);
    join.mutate({ user: String(form.get("user") ?? ""), password: String(form.get("password") ?? "") });
  };
  const found = invite.data;
  return (
    <Door>
      {invite.error ? (
        <>
          <Notice tone="stop">{whatWentWrong(invite.error)}</Notice>
          <p className="mt-4">
            <Link to="/" className="font-semibold text-accent underline">
              To the bench
            </Link>
          </p>
        </>
      ) : null}
      {found ? (
        <>
          <p className="mb-4">
            {found.by ? `${found.by} invites you` : "You are invited"} to work in <strong>{found.shop}</strong> as {found.role}.
          </p>
          {join.error ? <Notice tone="stop">{whatWentWrong(join.error)}</Notice> : null}
          {found.there ? (
            <Link to="/" className="font-semibold text-accent underline">
              You work there already: to the bench
            </Link>
          ) : session.user ? (
            <div className="mt-3 flex flex-col gap-2">
              <Button kind="main" disabled={join.isPending} onClick={() => join.mutate({})}>
                Join as {session.user}
              </Button>
              <p className="text-sm text-quiet">Your own shop stays as it is; you can go between the two at any time.</p>
            </div>
          ) : (
            <form onSubmit={submit} className="mt-3 flex flex-col gap-3">
              <label className="text-sm text-quiet">
                Choose a name
                <input name="user" autoComplete="username" required className={DOOR_FIELD} />
              </label>
              <PasswordField label="and a password of twelve characters or more" fresh />
              <Button type="submit" kind="main" disabled={join.isPending}>
                Join the shop
              </Button>
              <p className="text-sm text-quiet">
                If you have a name here already,{" "}
                <Link to="/" className="underline">
                  sign in
                </Link>{" "}
                first, then open the link again.
              </p>
            </form>
          )}
        </>
      ) : null}
    </Door>
  );
}
