import { useQuery, useQueryClient } from "@tanstack/react-query";
import { CalendarPlus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { answered } from "../../../../api/answered";
import { api, ask, saveFile, whatWentWrong } from "../../../../api/client";
import type { TimeAndMoney } from "../../../../api/types";
import { forgetWorked, useWorkedOut } from "../../../../api/worked";
import { Only, useSay } from "../../../../app/session";
import { Button } from "../../../../ui";
import { useToast } from "../../../../ui/toast";
import { Findings } from "../../Findings";
import { Measure } from "../../fields/Measure";
import { Columns, Shell } from "../../Panel";
import { useTable } from "../../table";
import { useStock } from "../stock";
import { barsOf, byDay, clock, DAY_MIN, dayOf, hoursText, isoDay, weekday } from "../time";

const DAY = new Intl.DateTimeFormat(undefined, { weekday: "short", day: "numeric", month: "short" });
const QUICK = ["day_hours", "week_days", "wage"];

/** Hours by kind of work, dates within the shop's hours, money by cause, and what would save some. */
export function TimeMoney() {
  const { document } = useTable();
  const { recipe, blade, off, stock, fire, hardening, finish, handle } = document;
  // what is fitted, etched and sharpened takes its hours too: the build has them by the same sum
  const whole = { recipe, blade, off, stock, fire, hardening, finish, handle };
  const [begun, setBegun] = useState(() => isoDay(new Date()));
  const first = new Date(`${begun}T00:00:00`);
  const told = useWorkedOut<TimeAndMoney>(
    "time",
    { document: whole, first: weekday(first) },
    (body, signal) => ask(api.POST("/api/stock/time", { body, signal })) as Promise<TimeAndMoney>,
  );
  const wrong = told.failure?.kind === "invalid" ? told.failure.problems : [];
  const time = wrong.length ? null : told.data;
  return (
    <Columns
      name="Time and money"
      scrolls
      left={
        <Shell title="When it is done">
          <label className="col-span-full block text-sm text-quiet">
            Begun on
            <input
              type="date"
              value={begun}
              onChange={(e) => e.target.value && setBegun(e.target.value)}
              className="mt-0.5 block min-h-11 w-full rounded-lg border border-edge bg-well px-3 text-base text-ink"
            />
          </label>
          {time ? <When time={time} first={first} /> : null}
          {time ? <ToCalendar time={time} begun={begun} body={whole} /> : null}
          <Quick />
          <p className="col-span-full text-sm text-quiet">
            How long each kind of work takes, and what it costs, are{" "}
            <Link className="underline" to="/steels?show=numbers">
              numbers of your shop
            </Link>
            : indicative until you put in your own. At a lit forge one stays; kiln, bath and glue go on by themselves.
          </p>
        </Shell>
      }
      right={time ? <Money time={time} /> : <Findings findings={[]} problems={wrong} />}
    >
      {time ? (
        <Days time={time} first={first} />
      ) : wrong.length ? (
        <p className="m-auto max-w-md text-center text-quiet">
          What it takes cannot be said yet: see at the right what stands in the way.
        </p>
      ) : (
        <p className="m-auto animate-pulse text-quiet">Working out the days…</p>
      )}
    </Columns>
  );
}

function When({ time, first }: { time: TimeAndMoney; first: Date }) {
  return (
    <div className="col-span-full">
      <p className="text-lg font-bold">{DAY.format(dayOf(first, time.likely, time.opens))}</p>
      <p className="text-sm">
        as likely as not; nine times in ten by <b>{DAY.format(dayOf(first, time.late, time.opens))}</b>.
      </p>
      <p className="mt-2">
        <b>{hoursText(time.attended)}</b> of work, and {hoursText(time.alone)} that go on by themselves.
      </p>
    </div>
  );
}

/** Its days and long waits for whatever calendar one keeps, in one's own words and units. */
function ToCalendar({ time, begun, body }: { time: TimeAndMoney; begun: string; body: object }) {
  const { name } = useTable();
  const title = useTitle();
  const toast = useToast();
  const said = Object.fromEntries(time.operations.map((o) => [o.id, title(o)]));
  return (
    <div className="col-span-full">
      <Button
        onClick={() =>
          void saveFile(
            "/api/stock/time.ics",
            { document: body, begun, title: name.trim() || "A blade", said },
            "days.ics",
          ).catch((e) => toast(whatWentWrong(e)))
        }
      >
        <CalendarPlus size={16} aria-hidden /> Into your calendar (.ics)
      </Button>
    </div>
  );
}

/** What an operation is called here: which bar, what is done, in the user's units. */
function useTitle(): (o: TimeAndMoney["operations"][number]) => string {
  const say = useSay();
  const { document } = useTable();
  const groups = useStock().sheet.data?.groups ?? [];
  return (o) => {
    const whose = barsOf(document, groups, o.bar, o.step);
    return whose ? `${whose}: ${say(o.title)}` : say(o.title);
  };
}

/** The numbers that change a date or a price most, here as under Steels. */
function Quick() {
  const queries = useQueryClient();
  const toast = useToast();
  const list = useQuery({ queryKey: ["figures"], queryFn: () => ask(api.GET("/api/figures")) }).data ?? [];
  const set = (key: string, value: number | null) =>
    ask(api.PUT("/api/figures/{key}", { params: { path: { key } }, body: { value } }))
      .then(async (next) => {
        await answered(queries, ["figures"], next);
        forgetWorked(queries);
      })
      .catch((e) => toast(whatWentWrong(e)));
  return (
    <Only needs="smith">
      {list
        .filter((f) => QUICK.includes(f.key))
        .map((f) => (
          <Measure key={f.key} label={f.label} unit={f.unit} value={f.now} onChange={(v) => void set(f.key, v)} />
        ))}
    </Only>
  );
}

function Days({ time, first }: { time: TimeAndMoney; first: Date }) {
  const say = useSay();
  const { document } = useTable();
  const groups = useStock().sheet.data?.groups ?? [];
  const whose = (o: TimeAndMoney["operations"][number]) => barsOf(document, groups, o.bar, o.step);
  const most = Math.max(time.day, ...time.operations.map((o) => o.attended));
  return (
    <section aria-label="Day by day" className="flex flex-col gap-3">
      {byDay(time.operations).map((day) => (
        <section key={day.number} aria-label={DAY.format(dayOf(first, day.number * DAY_MIN, time.opens))}>
          <h3 className="font-bold">
            {DAY.format(dayOf(first, day.number * DAY_MIN, time.opens))}
            <span className="ml-2 text-sm font-normal text-quiet">
              {hoursText(day.operations.reduce((sum, o) => sum + o.attended, 0))}
            </span>
          </h3>
          <ol>
            {day.operations.map((o) => (
              <li
                key={o.id}
                title={say(o.say)}
                className="grid grid-cols-[3.2rem_minmax(0,1fr)_minmax(3rem,12rem)_8.5rem] items-center gap-3 border-t border-line py-1 max-[800px]:grid-cols-[3rem_minmax(0,1fr)_6.5rem]"
              >
                <span className="font-mono text-sm text-quiet">{clock(o.start, time.opens)}</span>
                <span className="min-w-0">
                  {whose(o) ? <span className="text-quiet">{whose(o)}: </span> : null}
                  {say(o.title)}
                  {o.id === time.dearest ? <span className="text-sm text-care"> ◆ costs most</span> : null}
                </span>
                <span aria-hidden className="block h-3 max-[800px]:hidden">
                  <span
                    className={`block h-full rounded-[2px] ${o.critical ? "bg-[#57534d] dark:bg-[#b3ab9d]" : "bg-edge/50"}`}
                    style={{ width: `${Math.max(1, (100 * o.attended) / most)}%` }}
                  />
                </span>
                <span className="text-right text-sm">
                  {hoursText(o.attended)}
                  {o.alone >= 1 ? <span className="block text-quiet">then {hoursText(o.alone)} alone</span> : null}
                </span>
              </li>
            ))}
          </ol>
        </section>
      ))}
      <p className="text-sm text-quiet">Dark bars lie on the longest way: what is saved there is saved on the day it is done.</p>
    </section>
  );
}

function Money({ time }: { time: TimeAndMoney }) {
  const say = useSay();
  const most = Math.max(1, ...time.costs.map((c) => c.money));
  const dearest = time.operations.find((o) => o.id === time.dearest);
  return (
    <>
      <section aria-label="Money">
        <h3 className="font-bold">What it costs you</h3>
        <p className="text-2xl font-bold">{time.money.toFixed(0)}</p>
        <ul>
          {time.costs.map((c) => (
            <li key={c.cause} className="border-t border-line py-1">
              <span className="flex justify-between gap-3">
                <span>{say(c.says)}</span>
                <b className="font-mono">{c.money.toFixed(c.money < 100 ? 2 : 0)}</b>
              </span>
              <span aria-hidden className="block h-1.5 rounded-[2px] bg-accent" style={{ width: `${(100 * c.money) / most}%` }} />
            </li>
          ))}
        </ul>
        <p className="text-sm text-quiet">In your own money, without profit, rent and what went wrong.</p>
      </section>
      <section aria-label="Hours by kind of work">
        <h3 className="font-bold">Hours by kind of work</h3>
        <ul>
          {time.hours.map((h) => (
            <li key={h.place} className="flex justify-between gap-3 border-t border-line py-1">
              <span>{h.says}</span>
              <span className="text-right">
                {hoursText(h.attended)}
                {h.alone >= 1 ? <span className="text-sm text-quiet"> + {hoursText(h.alone)} alone</span> : null}
              </span>
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="What would save some">
        <h3 className="font-bold">What would save some</h3>
        {dearest ? (
          <p>
            What costs most is “{say(dearest.title)}”: {dearest.money.toFixed(0)} of {time.money.toFixed(0)}.
          </p>
        ) : null}
        {time.halved ? (
          <p>
            Half the layers, each thicker, would save {hoursText(Math.abs(time.halved[0] ?? 0))} and{" "}
            {(time.halved[1] ?? 0).toFixed(0)}; the pattern would be another.
          </p>
        ) : null}
      </section>
    </>
  );
}
