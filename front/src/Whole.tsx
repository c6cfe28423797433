/** The page with all it stands on. */
import { QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { BrowserRouter } from "react-router";
import { App } from "./App";
import { queries } from "./api/queries";
import { settleOwed } from "./kit/locked";
import { GlobalStyle } from "./kit/theme";

settleOwed();

export const Whole = () => (
  <StrictMode>
    <QueryClientProvider client={queries}>
      <BrowserRouter>
        <GlobalStyle />
        <App />
      </BrowserRouter>
    </QueryClientProvider>
  </StrictMode>
);
