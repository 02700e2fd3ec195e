import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { App } from "./app/App";
import { lostPiece } from "./lib/lostPiece";
import "./styles.css";

window.addEventListener("vite:preloadError", () => void lostPiece(() => window.location.reload()));

const root = document.getElementById("app");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <App />
    </StrictMode>,
  );
}
