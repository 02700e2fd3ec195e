import { screen } from "@testing-library/react";
import { useState } from "react";
import { expect, test, vi } from "vitest";
import { shown } from "../lib/testing";
import { Segments, Tabs, Toggle } from ".";

const NAMES = ["Fires", "Carbon", "Kiln"] as const;
const OPTIONS = [
  { value: "a", label: "light" },
  { value: "b", label: "dark" },
  { value: "c", label: "as it is outside" },
];

test("arrows go along the tabs and round, Home and End to their ends", async () => {
  function Kept() {
    const [tab, setTab] = useState<(typeof NAMES)[number]>("Fires");
    return <Tabs label="What" tabs={NAMES} value={tab} onChange={setTab} />;
  }
  const { hand } = shown(<Kept />);
  const on = () => screen.getByRole("tab", { selected: true }).textContent;
  await hand.click(screen.getByRole("tab", { name: "Fires" }));
  await hand.keyboard("{ArrowRight}");
  expect(on()).toBe("Carbon");
  await hand.keyboard("{End}");
  expect(on()).toBe("Kiln");
  await hand.keyboard("{ArrowRight}");
  expect(on()).toBe("Fires");
});

test("of a few in sight arrows choose, and the chosen one is told", async () => {
  function Kept() {
    const [value, setValue] = useState("a");
    return <Segments label="Light" value={value} options={OPTIONS} onChange={setValue} />;
  }
  const { hand } = shown(<Kept />);
  await hand.click(screen.getByRole("radio", { name: "light" }));
  await hand.keyboard("{ArrowRight}");
  expect(screen.getByRole("radio", { name: "dark" }).getAttribute("aria-checked")).toBe("true");
  await hand.keyboard("{ArrowLeft}{ArrowLeft}");
  expect(screen.getByRole("radio", { name: "as it is outside" }).getAttribute("aria-checked")).toBe("true");
});

test("a switch is thrown by space and says how it stands", async () => {
  const thrown = vi.fn();
  const { hand } = shown(<Toggle label="Thorough" checked={false} onChange={thrown} />);
  screen.getByRole("switch", { name: "Thorough" }).focus();
  await hand.keyboard(" ");
  expect(thrown).toHaveBeenCalledExactlyOnceWith(true);
});
