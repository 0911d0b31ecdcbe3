import "@fontsource-variable/hanken-grotesk";
import "@fontsource-variable/jetbrains-mono";
import "@mantine/core/styles.css";
import "@mantine/notifications/styles.css";
import "@mantine/spotlight/styles.css";
import "../preview/fonts.css";
import "./theme.css";

import { MantineProvider } from "@mantine/core";
import { Notifications } from "@mantine/notifications";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { createBrowserRouter, Navigate, RouterProvider } from "react-router";

import { ApiError, project } from "./api/client";
import { Frame } from "./frame/Frame";
import { theme } from "./theme";
import { Bench } from "./views/bench/Bench";
import { BenchList } from "./views/bench/BenchList";
import { CodeView } from "./views/bench/CodeView";
import { Catalogue } from "./views/catalogue/Catalogue";
import { ComponentPage } from "./views/catalogue/ComponentPage";
import { Compare } from "./views/sources/Compare";
import { Icons } from "./views/icons/Icons";
import { Sources } from "./views/sources/Sources";
import { Start } from "./views/start/Start";
import { Survey } from "./views/survey/Survey";
import { ByComponent } from "./views/sync/ByComponent";
import { Causes } from "./views/sync/Causes";
import { Decided } from "./views/sync/Decided";
import { OverTime } from "./views/sync/OverTime";
import { Sync } from "./views/sync/Sync";
import { Tokens } from "./views/tokens/Tokens";
import { TrialPage } from "./views/trial/TrialPage";
import { Trials } from "./views/trial/Trials";

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: 30_000,
      retry: (count, error) => count < 2 && !(error instanceof ApiError && error.trouble.status >= 400 && error.trouble.status < 500),
    },
  },
});

const router = createBrowserRouter(
  [
    {
      element: <Frame />,
      children: [
        { path: "/", element: <Start /> },
        { path: "/sources", element: <Sources /> },
        { path: "/sources/compare", element: <Compare /> },
        { path: "/survey", element: <Survey /> },
        { path: "/tokens", element: <Tokens /> },
        { path: "/bench", element: <BenchList /> },
        { path: "/icons", element: <Icons /> },
        { path: "/bench/:slug", element: <Bench /> },
        { path: "/bench/:slug/code", element: <CodeView /> },
        { path: "/catalogue", element: <Catalogue /> },
        { path: "/catalogue/:slug/:sheet?", element: <ComponentPage /> },
        {
          path: "/sync",
          element: <Sync />,
          children: [
            { index: true, element: <ByComponent /> },
            { path: "causes", element: <Causes /> },
            { path: "decided", element: <Decided /> },
            { path: "drift", element: <OverTime /> },
          ],
        },
        { path: "/trial", element: <Trials /> },
        { path: "/trial/:slug/:facet?", element: <TrialPage /> },
        { path: "*", element: <Navigate to="/" replace /> },
      ],
    },
  ],
  { basename: `/${project}` },
);

createRoot(document.getElementById("app")!).render(
  <StrictMode>
    <MantineProvider theme={theme} defaultColorScheme="auto">
      <Notifications position="top-right" />
      <QueryClientProvider client={queries}>
        <RouterProvider router={router} />
      </QueryClientProvider>
    </MantineProvider>
  </StrictMode>,
);
