import { Measure, type MeasureProps } from "./Measure";

/** The keys under which a record keeps numbers. */
type NumberOf<T> = { [K in keyof T]-?: NonNullable<T[K]> extends number ? K : never }[keyof T] & string;

export type MeasureRow<T> = Omit<MeasureProps, "value" | "onChange" | "problem"> & {
  name: NumberOf<T>;
  /** What it is when nothing is said; without it the field may be left empty. */
  usual?: number;
  /** A number beyond these is taken as the nearest of them. */
  least?: number;
  most?: number;
};

/** Several numbers of one record, each a field under its own name. */
export function MeasureRows<T extends object>({
  of,
  put,
  rows,
  wrong,
}: {
  of: Partial<T>;
  put: (next: Partial<T>, what: string) => void;
  rows: (MeasureRow<T> | false | null | undefined)[];
  /** What is wrong with the number of this name. */
  wrong?: (name: string) => string | undefined;
}) {
  return rows
    .filter((row) => !!row)
    .map(({ name, usual, least = Number.NEGATIVE_INFINITY, most = Number.POSITIVE_INFINITY, ...row }) => (
      <Measure
        key={name}
        {...row}
        value={(of[name] as number | null | undefined) ?? usual ?? null}
        optional={usual === undefined}
        problem={wrong?.(name)}
        onChange={(v) => {
          const said = v ?? usual ?? null;
          put({ [name]: said === null ? null : Math.min(most, Math.max(least, said)) } as Partial<T>, name);
        }}
      />
    ));
}
