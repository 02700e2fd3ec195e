import type { ProblemItem } from "../../../api/types";

/** The problems below `name`, with paths relative to it. */
export function under(problems: ProblemItem[], name: string): ProblemItem[] {
  return problems.flatMap((p) => {
    if (p.path === name) return [{ ...p, path: "" }];
    if (p.path.startsWith(`${name}.`)) return [{ ...p, path: p.path.slice(name.length + 1) }];
    if (p.path.startsWith(`${name}[`)) return [{ ...p, path: p.path.slice(name.length) }];
    return [];
  });
}

export function sentence(p: ProblemItem): string {
  const text = `${p.wrong}; ${p.cure}.`;
  return (text[0]?.toUpperCase() ?? "") + text.slice(1);
}
