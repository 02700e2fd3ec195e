import { Link } from "react-router";
import { useSay } from "../../../app/session";
import { useBuild } from "../useBuild";
import { buildAddress } from "../where";

/** Where in the job one is: a mark an operation, filled when done, struck when skipped. */
export function Dots({ at }: { at: number }) {
  const { route, of, info } = useBuild();
  const say = useSay();
  return (
    <nav aria-label="All operations" className="flex max-w-[46rem] gap-[3px]">
      {route.map((o, i) => {
        const s = of(o.id);
        const fill = s.faults.length
          ? "bg-care"
          : s.standing === "done"
            ? "bg-accent"
            : s.standing === "skipped"
              ? "bg-edge/50"
              : "bg-line";
        return (
          <Link
            key={o.id}
            to={buildAddress(info.id, "sheet", o.id)}
            aria-current={i === at ? "step" : undefined}
            aria-label={`${i + 1}: ${say(o.title)}, ${s.standing}`}
            title={say(o.title)}
            className="grid h-7 min-w-[6px] flex-1 items-center"
          >
            <span className={`block rounded-full ${fill} ${i === at ? "h-4 outline-2 outline-offset-1 outline-ink" : "h-2.5"}`} />
          </Link>
        );
      })}
    </nav>
  );
}
