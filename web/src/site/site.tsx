import "./answers"; // before anything asks

import "@fontsource-variable/hanken-grotesk";
import "@fontsource-variable/jetbrains-mono";
import "@mantine/core/styles.css";
import "../../preview/fonts.css";
import "../theme.css";
import "./site.css";

import { ActionIcon, MantineProvider, useMantineColorScheme } from "@mantine/core";
import { IconMoon, IconSun } from "@tabler/icons-react";
import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { createRoot } from "react-dom/client";
import { createHashRouter, Link, Navigate, Outlet, RouterProvider } from "react-router";

import { theme } from "../theme";
import { Catalogue } from "../views/catalogue/Catalogue";
import { ComponentPage } from "../views/catalogue/ComponentPage";

/** The frame of a catalogue without a server: its name, and what it was made of. */
function Frame() {
  const { colorScheme, setColorScheme } = useMantineColorScheme();
  const dark = colorScheme === "dark";
  const project = globalThis.cobrikSite.answers["GET /project"] as { name: string; version: string };
  return (
    <div className="site">
      <a className="skip" href="#main" onClick={(e) => (e.preventDefault(), document.getElementById("main")?.focus())}>
        Skip to the view
      </a>
      <header>
        <Link to="/catalogue">
          <strong>{project.name}</strong>
        </Link>
        <span className="quiet">{project.version}</span>
        <ActionIcon
          variant="subtle"
          color="gray"
          aria-label={dark ? "Light theme" : "Dark theme"}
          onClick={() => setColorScheme(dark ? "light" : "dark")}
        >
          {dark ? <IconSun size={16} /> : <IconMoon size={16} />}
        </ActionIcon>
      </header>
      <main id="main" tabIndex={-1}>
        <Outlet />
      </main>
    </div>
  );
}

const router = createHashRouter([
  {
    element: <Frame />,
    children: [
      { path: "/catalogue", element: <Catalogue /> },
      { path: "/catalogue/:slug/:sheet?", element: <ComponentPage /> },
      { path: "*", element: <Navigate to="/catalogue" replace /> },
    ],
  },
]);

const queries = new QueryClient({ defaultOptions: { queries: { staleTime: Infinity, retry: false } } });

createRoot(document.getElementById("app")!).render(
  <MantineProvider theme={theme} defaultColorScheme="auto">
    <QueryClientProvider client={queries}>
      <RouterProvider router={router} />
    </QueryClientProvider>
  </MantineProvider>,
);
