import type { Operation } from "../../../api/types";
import { useUnits } from "../../../app/session";
import { sizesBefore, sizesOf, sizeText } from "../quantity";
import { useBuild } from "../useBuild";
import { useKeptPicture, wanted } from "./pictures";

/** The bar before and after, to one scale; the blade, once there is no bar. */
export function Before({ op }: { op: Operation }) {
  const { info, route, of } = useBuild();
  const units = useUnits();
  const before = useKeptPicture(wanted(info, op, "before"));
  const after = useKeptPicture(wanted(info, op, "after"));
  if (!before && !after) return null;
  const was = sizesBefore(route, op, of);
  const is = sizesOf(op, of(op.id), true);
  const longest = Math.max(was.length ?? 0, is.length ?? 0);
  const share = (mm: number | undefined) => (longest && mm ? `${Math.max(12, (100 * mm) / longest)}%` : "100%");
  return (
    <div className="mt-4 flex max-w-[46rem] flex-col gap-2 rounded-xl bg-plate p-3 text-plate-quiet">
      {before ? (
        <figure>
          <img
            src={before}
            alt="The bar as it comes"
            style={{ width: share(was.length) }}
            className="block max-h-24 object-fill"
          />
          <figcaption className="text-sm">before{was.length ? `: ${sizeText(was, units)}` : ""}</figcaption>
        </figure>
      ) : null}
      {after ? (
        <figure>
          <img
            src={after}
            alt={op.bar ? "The bar as it is to be" : "The blade"}
            style={op.bar ? { width: share(is.length) } : undefined}
            className={`block ${op.bar ? "max-h-24 object-fill" : "max-h-40 w-full object-contain"}`}
          />
          <figcaption className="text-sm">
            {op.bar ? `after${is.length ? `: ${sizeText(is, units)}` : ""}` : "this blade, as it is being made"}
          </figcaption>
        </figure>
      ) : null}
    </div>
  );
}
