import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Copy, Trash2 } from "lucide-react";
import { type FormEvent, useState } from "react";
import { answered } from "../../api/answered";
import { api, ask, whatWentWrong } from "../../api/client";
import type { People, Role } from "../../api/types";
import { Only, SESSION_KEY, useMay, useSession } from "../../app/session";
import { Button, Choice, Notice } from "../../ui";
import { useToast } from "../../ui/toast";
import { Yourself } from "../account/Yourself";

const KEY = ["people"];
const DAY = new Intl.DateTimeFormat(undefined, { day: "numeric", month: "short", year: "numeric" });
const ROLES: { value: Role; label: string; hint: string }[] = [
  {
    value: "helper",
    label: "Helper",
    hint: "looks, tries out, and writes in the log of builds; keeps no design and takes no steel",
  },
  { value: "smith", label: "Smith", hint: "draws designs, keeps the shop's numbers, runs the kiln" },
  { value: "owner", label: "Owner", hint: "all that, and says who works here" },
];
const roleName = (role: Role) => ROLES.find((r) => r.value === role)?.label ?? role;

/** The shop: its name, who works there and as what, invites. */
export function ShopPage() {
  const { session } = useSession();
  const list = useQuery({ queryKey: KEY, queryFn: () => ask(api.GET("/api/shop/people")) });
  return (
    <main className="min-h-0 flex-1 overflow-y-auto p-6">
      <div className="mx-auto max-w-4xl space-y-6">
        <div>
          <h1 className="text-2xl font-bold">{session.shop?.name}</h1>
          <p className="text-quiet">
            Designs, steels, numbers and the kiln belong to the shop; everybody who works in it sees them. You are here as{" "}
            {session.shop ? roleName(session.shop.role).toLowerCase() : ""}.
          </p>
        </div>
        {list.error ? <Notice tone="stop">{whatWentWrong(list.error)}</Notice> : null}
        {list.data ? <AtWork people={list.data} /> : list.error ? null : <p className="animate-pulse text-quiet">Fetching…</p>}
        {list.data ? <Invites people={list.data} /> : null}
        <ShopName key={session.shop?.id} />
        <Yourself />
        <Leave />
      </div>
    </main>
  );
}

/** A change of who works here: its answer is the new list. */
function usePeopleChange() {
  const queries = useQueryClient();
  const toast = useToast();
  return (asking: Promise<People>, said?: string) =>
    asking
      .then(async (next) => {
        await answered(queries, KEY, next);
        void queries.invalidateQueries({ queryKey: SESSION_KEY });
        if (said) toast(said);
      })
      .catch((e) => toast(whatWentWrong(e)));
}

function AtWork({ people }: { people: People }) {
  const owner = useMay("owner");
  const change = usePeopleChange();
  const [sure, setSure] = useState<number | null>(null);
  return (
    <section aria-labelledby="at-work" className="rounded-2xl border border-line bg-panel p-5">
      <h2 id="at-work" className="mb-2 text-lg font-bold">
        Who works here
      </h2>
      <ul>
        {people.people.map((p) => {
          const path = { params: { path: { person_id: p.id } } };
          return (
            <li key={p.id} className="flex min-h-14 flex-wrap items-center gap-3 border-t border-line py-1 first:border-t-0">
              <span className="min-w-40 flex-1">
                <b>{p.name}</b>
                {p.me ? " (you)" : ""}
                <span className="block text-sm text-quiet">since {DAY.format(new Date(p.since))}</span>
              </span>
              {owner ? (
                <>
                  <div className="w-44">
                    <Choice<Role>
                      label={`Role of ${p.name}`}
                      value={p.role}
                      options={ROLES}
                      onChange={(role) => void change(ask(api.PUT("/api/shop/people/{person_id}", { ...path, body: { role } })))}
                    />
                  </div>
                  <span className="flex w-36 justify-end">
                    {p.me ? null : sure === p.id ? (
                      <Button
                        kind="main"
                        label={`Yes, take out ${p.name}`}
                        onClick={() =>
                          void change(
                            ask(api.DELETE("/api/shop/people/{person_id}", path)),
                            `${p.name} works here no more; what they made stays.`,
                          )
                        }
                      >
                        Yes, take out
                      </Button>
                    ) : (
                      <Button kind="quiet" label={`Take out ${p.name}`} onClick={() => setSure(p.id)}>
                        Take out
                      </Button>
                    )}
                  </span>
                </>
              ) : (
                <span className="text-quiet">{roleName(p.role)}</span>
              )}
            </li>
          );
        })}
      </ul>
      <dl className="mt-3 grid grid-cols-[6rem_1fr] gap-x-3 border-t border-line pt-3 text-sm">
        {ROLES.map((r) => (
          <div key={r.value} className="contents">
            <dt className="font-semibold">{r.label}</dt>
            <dd className="text-quiet">{r.hint}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

function Invites({ people }: { people: People }) {
  const owner = useMay("owner");
  const queries = useQueryClient();
  const change = usePeopleChange();
  const toast = useToast();
  const [role, setRole] = useState<Role>("smith");
  const make = useMutation({
    mutationFn: () => ask(api.POST("/api/shop/invites", { body: { role } })),
    onSuccess: () => void queries.invalidateQueries({ queryKey: KEY }),
  });
  if (!owner) return null;
  const link = make.data ? `${window.location.origin}/join/${make.data.token}` : "";
  const copy = () =>
    navigator.clipboard
      .writeText(link)
      .then(() => toast("The link is copied."))
      .catch(() => toast("Mark the link and copy it by hand."));
  return (
    <section aria-labelledby="invites" className="rounded-2xl border border-line bg-panel p-5">
      <h2 id="invites" className="text-lg font-bold">
        Invite somebody
      </h2>
      <p className="mb-3 text-quiet">
        You get a link to pass on yourself. It works once, for seven days; whoever opens it joins the shop in the role you choose.
      </p>
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-44">
          <Choice<Role> label="Invited as" value={role} options={ROLES} onChange={setRole} />
        </div>
        <Button kind="main" onClick={() => make.mutate()} disabled={make.isPending}>
          Make a link
        </Button>
      </div>
      {make.error ? <Notice tone="stop">{whatWentWrong(make.error)}</Notice> : null}
      {make.data ? (
        <div className="mt-3 rounded-lg border border-accent p-3">
          <p className="mb-2">
            For a {roleName(make.data.role).toLowerCase()}, until {DAY.format(new Date(make.data.expires))}. It is shown this
            once:
          </p>
          <div className="flex items-center gap-2">
            <input
              readOnly
              aria-label="The link"
              value={link}
              onFocus={(e) => e.currentTarget.select()}
              className="min-h-11 min-w-0 flex-1 rounded-lg border border-edge bg-well px-3 font-mono text-sm"
            />
            <Button compact label="Copy the link" onClick={() => void copy()}>
              <Copy size={18} aria-hidden />
            </Button>
          </div>
        </div>
      ) : null}
      {people.invites.length ? (
        <ul className="mt-4">
          {people.invites.map((i) => (
            <li key={i.id} className="flex min-h-12 items-center gap-3 border-t border-line text-sm">
              <span className="flex-1">
                A link for a {roleName(i.role).toLowerCase()}, not used yet
                <span className="block text-quiet">
                  {i.by ? `made by ${i.by}, ` : ""}works until {DAY.format(new Date(i.expires))}
                </span>
              </span>
              <Button
                compact
                kind="quiet"
                label="Take this link back"
                onClick={() =>
                  void change(
                    ask(api.DELETE("/api/shop/invites/{invite_id}", { params: { path: { invite_id: i.id } } })),
                    "That link works no more.",
                  )
                }
              >
                <Trash2 size={18} aria-hidden />
              </Button>
            </li>
          ))}
        </ul>
      ) : null}
    </section>
  );
}

function ShopName() {
  const { session } = useSession();
  const queries = useQueryClient();
  const toast = useToast();
  const [name, setName] = useState(session.shop?.name ?? "");
  const owner = useMay("owner");
  if (!owner) return null;
  const keep = (e: FormEvent) => {
    e.preventDefault();
    ask(api.PATCH("/api/shop", { body: { name } }))
      .then(() => queries.invalidateQueries({ queryKey: SESSION_KEY }))
      .then(() => toast("The shop has its new name."))
      .catch((error) => toast(whatWentWrong(error)));
  };
  return (
    <form onSubmit={keep} className="flex flex-wrap items-end gap-3 rounded-2xl border border-line bg-panel p-5">
      <label className="min-w-60 flex-1 text-sm text-quiet">
        Name of the shop
        <input
          value={name}
          maxLength={120}
          required
          onChange={(e) => setName(e.target.value)}
          className="mt-0.5 block min-h-11 w-full rounded-lg border border-edge bg-well px-3 text-base text-ink"
        />
      </label>
      <Button type="submit" disabled={!name.trim() || name.trim() === session.shop?.name}>
        Rename
      </Button>
    </form>
  );
}

function Leave() {
  const queries = useQueryClient();
  const [sure, setSure] = useState(false);
  const leave = useMutation({
    mutationFn: () => ask(api.POST("/api/shop/leave")),
    onSuccess: () => {
      queries.clear();
      window.location.assign("/");
    },
  });
  return (
    <section className="rounded-2xl border border-line p-5">
      <h2 className="text-lg font-bold">Leave this shop</h2>
      <p className="mb-3 text-quiet">What you made stays with the shop. You come back only by another invite.</p>
      {leave.error ? <Notice tone="stop">{whatWentWrong(leave.error)}</Notice> : null}
      <Only needs="helper">
        {sure ? (
          <Button kind="main" onClick={() => leave.mutate()}>
            Yes, leave
          </Button>
        ) : (
          <Button onClick={() => setSure(true)}>Leave</Button>
        )}
      </Only>
    </section>
  );
}
