import type { ReactNode } from "react";

const line = { fill: "none", strokeWidth: 2.2, strokeLinecap: "round" as const };
const DRAWN: Record<string, ReactNode> = {
  core_centred: (
    <>
      <path d="M6 14H50Q64 16 70 34Q56 46 40 46H6Z" stroke="var(--quiet)" {...line} />
      <path d="M6 38Q26 33 40 37T66 34" stroke="var(--accent)" {...line} />
      <path d="M6 41H58M6 34H64" stroke="var(--line)" strokeDasharray="3 4" {...line} />
    </>
  ),
  read_face: (
    <>
      <rect x={6} y={12} width={64} height={36} rx={3} stroke="var(--quiet)" {...line} />
      <path d="M8 44Q18 30 24 14M22 46Q34 30 40 14M38 46Q50 30 56 14M54 46Q64 34 68 20" stroke="var(--accent)" {...line} />
    </>
  ),
  find_fault: (
    <>
      <path d="M6 20H70M6 30H70M6 40H70" stroke="var(--quiet)" {...line} />
      <path d="M22 30Q38 22 54 30Q38 38 22 30Z" fill="var(--stop)" />
      <circle cx={50} cy={28} r={14} stroke="var(--ink)" {...line} />
      <path d="M60 38L70 50" stroke="var(--ink)" {...line} />
    </>
  ),
  by_eye: (
    <>
      <rect x={6} y={20} width={16} height={22} fill="#5a1712" />
      <rect x={22} y={20} width={16} height={22} fill="#a82a14" />
      <rect x={38} y={20} width={16} height={22} fill="#ea6a22" />
      <rect x={54} y={20} width={16} height={22} fill="#fbc55e" />
    </>
  ),
  sums: (
    <>
      <path d="M14 10H58V52H14Z" stroke="var(--quiet)" {...line} />
      <path d="M20 20H40M20 28H48M20 36H36M44 44H52" stroke="var(--accent)" {...line} />
      <path d="M20 44H32" stroke="var(--ink)" {...line} />
    </>
  ),
};

/** A small drawing of an exercise. */
export function Emblem({ kind }: { kind: string }) {
  return (
    <svg viewBox="0 0 76 60" width={76} height={60} aria-hidden className="shrink-0">
      {DRAWN[kind] ?? null}
    </svg>
  );
}
