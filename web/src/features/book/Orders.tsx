import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, ask, overtakenBy, whatWentWrong } from "../../api/client";
import type { Order } from "../../api/types";
import { Only, RoleNote, useSay, useUnit } from "../../app/session";
import { type LengthUnit, length, parseNumber, sizes } from "../../lib/units";
import { Button, Choice, Modal, Notice, Segments } from "../../ui";
import { useToast } from "../../ui/toast";
import { buildAddress } from "../build/where";
import { Measure } from "../design/fields/Measure";
import { useSteels } from "../steels/useSteels";
import { dueText } from "./words";

type Said = Omit<Order, "id" | "made" | "builds" | "mark" | "design">;
const FRESH: Said = {
  who: "",
  title: "",
  purpose: "",
  promised: null,
  price: null,
  must: "",
  length: null,
  height: null,
  steels: [],
  state: "open",
};
const PURPOSES: { value: Said["purpose"]; label: string }[] = [
  { value: "", label: "not said" },
  { value: "slicing", label: "slicing" },
  { value: "carving", label: "carving" },
  { value: "chopping", label: "chopping" },
  { value: "heavy work", label: "heavy work" },
  { value: "show", label: "show" },
];

/** What somebody wants made: for whom, by when, for how much, what may not be missing. */
export function Orders() {
  const orders = useQuery({ queryKey: ["orders"], queryFn: () => ask(api.GET("/api/builds/orders")) });
  const [open, setOpen] = useState<Order | "new" | null>(null);
  const list = orders.data ?? [];
  const unit = useUnit();
  return (
    <>
      <div className="mb-3 flex items-center gap-3">
        <Only needs="smith">
          <Button kind="main" onClick={() => setOpen("new")}>
            <Plus size={18} aria-hidden /> New order
          </Button>
        </Only>
        <RoleNote needs="smith" what="A smith takes orders." />
      </div>
      {orders.error ? <Notice tone="stop">{whatWentWrong(orders.error)}</Notice> : null}
      {orders.data && !list.length ? <p className="py-8 text-center text-quiet">No orders yet.</p> : null}
      <ul className="flex flex-col gap-2">
        {list.map((o) => (
          <li key={o.id} className="flex flex-wrap items-center gap-x-6 gap-y-1 rounded-xl border border-line bg-panel px-4 py-2">
            <button type="button" className="min-h-11 min-w-0 flex-1 text-left" onClick={() => setOpen(o)}>
              <span className="block truncate text-lg font-bold">
                {o.title}
                <span className="font-normal text-quiet">, for {o.who}</span>
              </span>
              <span className="block truncate text-quiet">
                {[o.purpose, sizeOf(o, unit), o.must].filter(Boolean).join(" · ") || "nothing more was said"}
              </span>
            </button>
            <span className="text-right text-sm">
              {o.state !== "open" ? (
                <span className="block">{o.state}</span>
              ) : o.promised ? (
                <span className={`block ${dueText(o.promised).late ? "text-care" : ""}`}>{dueText(o.promised).text}</span>
              ) : null}
              {o.price !== null && o.price !== undefined ? <span className="block font-mono">{o.price.toFixed(2)}</span> : null}
              {o.design ? (
                <Link className="block underline" to={`/design/${o.design}`}>
                  its design
                </Link>
              ) : null}
              {o.builds.map((b) => (
                <Link key={b} className="block underline" to={buildAddress(b)}>
                  its build
                </Link>
              ))}
            </span>
          </li>
        ))}
      </ul>
      {open ? (
        <OrderDialog key={open === "new" ? 0 : open.id} order={open === "new" ? null : open} onClose={() => setOpen(null)} />
      ) : null}
    </>
  );
}

/** "blade 150 × 30 mm", as far as it was said. */
function sizeOf(o: Order, unit: LengthUnit): string {
  if (o.length && o.height) return `blade ${sizes([o.length, o.height], unit)}`;
  if (o.length) return `blade ${length(o.length, unit)} long`;
  return o.height ? `blade ${length(o.height, unit)} high` : "";
}

function OrderDialog({ order, onClose }: { order: Order | null; onClose: () => void }) {
  const [said, setSaid] = useState<Said>(order ?? FRESH);
  const [price, setPrice] = useState(order?.price?.toString() ?? "");
  const [wrong, setWrong] = useState("");
  const [base, setBase] = useState(order?.mark ?? "");
  const queries = useQueryClient();
  const toast = useToast();
  const put = (more: Partial<Said>) => setSaid({ ...said, ...more });
  const field = "min-h-11 w-full rounded-lg border border-edge bg-well px-3";
  const keep = () => {
    const money = price.trim() ? parseNumber(price) : null;
    if (money && !money.ok) return setWrong(money.why);
    const { who, title, purpose, promised, must, state, length, height, steels } = said;
    const body = {
      ...{ purpose, promised, must, state, length, height, steels },
      who: who.trim(),
      title: title.trim(),
      price: money?.ok ? money.value : null,
    };
    const asking = order
      ? ask(api.PUT("/api/builds/orders/{order_id}", { params: { path: { order_id: order.id } }, body: { ...body, base } }))
      : ask(api.POST("/api/builds/orders", { body }));
    asking
      .then(() => {
        void queries.invalidateQueries({ queryKey: ["orders"] });
        toast(order ? "The order is changed." : "The order is taken.");
        onClose();
      })
      .catch((e) => {
        const mark = overtakenBy(e);
        if (mark === null) return setWrong(whatWentWrong(e));
        // what was typed stays; theirs is behind it in the list
        setBase(mark);
        void queries.invalidateQueries({ queryKey: ["orders"] });
        setWrong(
          "Somebody changed this order in the meantime. Save again to put yours in its place, or close this to see theirs.",
        );
      });
  };
  const steels = useSteels().filter((s) => !s.retired || said.steels?.includes(s.key));
  const navigate = useNavigate();
  const changed = !!order && JSON.stringify(said) !== JSON.stringify(order);
  const begin = () => {
    if (!order) return;
    if (order.design) return void navigate(`/design/${order.design}`);
    ask(api.POST("/api/builds/orders/{order_id}/design", { params: { path: { order_id: order.id } } }))
      .then((made) => {
        for (const key of [["orders"], ["designs"]]) void queries.invalidateQueries({ queryKey: key });
        if (made.design) navigate(`/design/${made.design}`);
      })
      .catch((e) => setWrong(whatWentWrong(e)));
  };
  return (
    <Modal open onClose={onClose} title={order ? "The order" : "A new order"}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          keep();
        }}
      >
        {wrong ? <Notice tone="stop">{wrong}</Notice> : null}
        <label>
          <span className="mb-0.5 block text-sm text-quiet">What is wanted</span>
          <input className={field} required maxLength={200} value={said.title} onChange={(e) => put({ title: e.target.value })} />
        </label>
        <label>
          <span className="mb-0.5 block text-sm text-quiet">For whom</span>
          <input className={field} required maxLength={120} value={said.who} onChange={(e) => put({ who: e.target.value })} />
        </label>
        <div className="grid grid-cols-2 gap-3">
          <div>
            <Choice
              titled
              label="What it is for"
              value={said.purpose ?? ""}
              options={PURPOSES as { value: string; label: string }[]}
              onChange={(v) => put({ purpose: v as Said["purpose"] })}
            />
          </div>
          <label>
            <span className="mb-0.5 block text-sm text-quiet">Promised for</span>
            <input
              type="date"
              className={field}
              value={said.promised ?? ""}
              onChange={(e) => put({ promised: e.target.value || null })}
            />
          </label>
          <label>
            <span className="mb-0.5 block text-sm text-quiet">Price, in your own money</span>
            <input inputMode="decimal" className={field} value={price} onChange={(e) => setPrice(e.target.value)} />
          </label>
        </div>
        <Suggested purpose={said.purpose ?? ""} />
        <div className="grid grid-cols-2 gap-3">
          <Measure label="Blade, long" unit="mm" optional value={said.length} onChange={(length) => put({ length })} />
          <Measure label="Blade, high" unit="mm" optional value={said.height} onChange={(height) => put({ height })} />
          {[0, 1].map((i) => (
            <div key={i}>
              <Choice
                titled
                label={i ? "And of" : "Steel"}
                value={said.steels?.[i] ?? ""}
                options={[
                  { value: "", label: i ? "nothing else" : "not said" },
                  ...steels.map((s) => ({ value: s.key, label: s.name })),
                ]}
                onChange={(key) => {
                  const next = [...(said.steels ?? [])];
                  next[i] = key;
                  put({ steels: next.filter((k, n) => k && next.indexOf(k) === n) });
                }}
              />
            </div>
          ))}
        </div>
        <label>
          <span className="mb-0.5 block text-sm text-quiet">What may not be missing</span>
          <textarea
            rows={3}
            maxLength={1000}
            className={`${field} py-2`}
            value={said.must}
            onChange={(e) => put({ must: e.target.value })}
          />
        </label>
        {order ? (
          <Segments<Order["state"] & string>
            titled
            label="It is"
            value={said.state ?? "open"}
            options={[
              { value: "open", label: "open" },
              { value: "delivered", label: "delivered" },
              { value: "withdrawn", label: "withdrawn" },
            ]}
            onChange={(state) => put({ state })}
          />
        ) : null}
        <div className="flex flex-wrap justify-end gap-2">
          {order && said.state === "open" ? (
            <Only needs="smith">
              <span className="mr-auto">
                {/* what is typed and not kept yet would not be in it */}
                <Button onClick={begin} disabled={!order.design && changed}>
                  {order.design ? "Open its design" : "Begin its design"}
                </Button>
              </span>
            </Only>
          ) : null}
          <Button onClick={onClose}>Leave it</Button>
          <Only needs="smith">
            <Button kind="main" type="submit" disabled={!said.title.trim() || !said.who.trim()}>
              Keep
            </Button>
          </Only>
        </div>
      </form>
    </Modal>
  );
}

/** What a purpose suggests of the blade. */
function Suggested({ purpose }: { purpose: string }) {
  const say = useSay();
  const found = useQuery({
    queryKey: ["purposes"],
    queryFn: () => ask(api.GET("/api/builds/purposes")),
    staleTime: Number.POSITIVE_INFINITY,
  }).data?.find((p) => p.purpose === purpose);
  if (!found) return null;
  const [thin = 0, thick = 0] = found.behind;
  const shapes = found.shapes.map((s) => s.replace(/_/g, " ")).join(" or ");
  return (
    <p role="note" className="border-l-4 border-note bg-note-wash px-3 py-2 text-sm">
      {say(`An edge ${thin.toFixed(2)} mm to ${thick.toFixed(2)} mm thick behind its bevel`)}, ground to {found.angle[0]}° to{" "}
      {found.angle[1]}°, {found.hardness[0]} to {found.hardness[1]} HRC; {shapes}. {found.why} A suggestion: the design's Build
      place says where it is otherwise.
    </p>
  );
}
