import type { ReactNode } from "react";

/** What runs up the left side of a chart. */
export function AxisName({ height, children }: { height: number; children: ReactNode }) {
  return (
    <text x={12} y={height / 2} transform={`rotate(-90 12 ${height / 2})`} textAnchor="middle" className="fill-quiet text-[12px]">
      {children}
    </text>
  );
}
