import { screen, within } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { expect, test } from "vitest";
import { server, shown } from "../../lib/testing";
import { ToastProvider } from "../../ui/toast";
import { Orders } from "./Orders";

const ORDER = {
  id: 7,
  title: "Spoke knife",
  who: "Coppice",
  purpose: "",
  promised: null,
  price: 200,
  must: "",
  state: "open",
  builds: [],
};

test("an order that another changed meanwhile is told, what was typed stays, and is put in its place only when one says so again", async () => {
  const bodies: { title: string; base: string }[] = [];
  const late = { code: "overtaken", title: "", problems: [], mark: "theirs" };
  server({
    "GET /api/builds/orders": () => [{ ...ORDER, mark: "seen", made: "2026-05-17T08:00:00Z" }],
    "GET /api/builds/purposes": () => [],
    "PUT /api/builds/orders/7": (body) => {
      bodies.push(body as { title: string; base: string });
      return bodies.length === 1 ? Response.json(late, { status: 409 }) : ORDER;
    },
  });
  const { hand } = shown(
    <MemoryRouter>
      <ToastProvider>
        <Orders />
      </ToastProvider>
    </MemoryRouter>,
  );
  await hand.click(await screen.findByText("Spoke knife"));
  const dialog = within(await screen.findByRole("dialog"));
  await hand.type(dialog.getByLabelText("What is wanted"), ", long");
  await hand.keyboard("{Enter}");
  await dialog.findByText(/Somebody changed this order in the meantime/);
  expect(dialog.getByLabelText("What is wanted")).toHaveProperty("value", "Spoke knife, long");
  await hand.type(dialog.getByLabelText("What is wanted"), "{Enter}");
  await screen.findByText("The order is changed.");
  expect(bodies.map((b) => [b.title, b.base])).toEqual([
    ["Spoke knife, long", "seen"],
    ["Spoke knife, long", "theirs"],
  ]);
});
