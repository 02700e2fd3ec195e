import { Choice } from "../../ui";
import { greyOf, useSteels } from "./useSteels";

/** One steel of the list; those in use in the shop come first. */
export function SteelChoice({
  value,
  onChange,
  label = "Steel",
}: {
  value: string;
  onChange: (key: string) => void;
  label?: string;
}) {
  const steels = useSteels();
  // a retired one is offered only where it stands already
  const there = steels.filter((s) => !s.retired || s.key === value);
  const ordered = [...there.filter((s) => s.in_use), ...there.filter((s) => !s.in_use)];
  const options = ordered.map((s) => ({
    value: s.key,
    label: s.name,
    short: s.name.split(" ")[0],
    hint: s.why_tone,
    swatch: greyOf(s.grey),
  }));
  return <Choice label={label} value={value} options={options} onChange={onChange} />;
}
