import "./tokens.css";

import { QueryClientProvider } from "@tanstack/react-query";
import { Tooltip } from "radix-ui";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { RouterProvider } from "react-router/dom";

import { newCache } from "../api/cache";
import { LiveProvider } from "../api/live";
import { UndoProvider } from "../parts/undo";
import { router } from "./routes";
import { Gate } from "./sign-in";

const cache = newCache();
const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <QueryClientProvider client={cache}>
        <Gate>
          <LiveProvider>
            <UndoProvider>
              <Tooltip.Provider>
                <RouterProvider router={router} />
              </Tooltip.Provider>
            </UndoProvider>
          </LiveProvider>
        </Gate>
      </QueryClientProvider>
    </StrictMode>,
  );
}
