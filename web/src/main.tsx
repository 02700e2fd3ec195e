import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./app/App";
import "./styles.css";

// a front end that was built again while this page was open: its pieces have other names now, and a reload finds them
window.addEventListener("vite:preloadError", (event) => {
  const last = Number(sessionStorage.getItem("varistrat:reloaded") ?? 0);
  if (Date.now() - last < 30_000) return;
  sessionStorage.setItem("varistrat:reloaded", String(Date.now()));
  event.preventDefault();
  window.location.reload();
});

const root = document.getElementById("app");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <App />
    </StrictMode>,
  );
}
