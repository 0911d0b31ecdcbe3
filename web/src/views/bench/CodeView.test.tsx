import { fireEvent, screen } from "@testing-library/react";
import { Route, Routes } from "react-router";
import { describe, expect, it } from "vitest";

import { server, show } from "../../test-server";
import { CodeView } from "./CodeView";

function opened(address = "/bench/bed-card/code") {
  show(
    <Routes>
      <Route path="/bench/:slug/code" element={<CodeView />} />
    </Routes>,
    address,
  );
}
const files = [
  { path: "BedCard.tsx", content: "export function BedCard() {}\n" },
  { path: "BedCard.module.css", content: ".root {\n}\n" },
  { path: "tokens.css", content: ":root {}\n" },
];
const tab = (name: string) => screen.getByRole("tab", { name });

describe("the code", () => {
  it("is read file by file, by pointer and by arrows", async () => {
    server.answer("GET /components/bed-card/files", () => files);
    opened();
    expect((await screen.findByRole("tab", { selected: true })).textContent).toBe("BedCard.tsx");
    expect(screen.getByRole("tabpanel").textContent).toContain("export function BedCard");
    fireEvent.click(tab("tokens.css"));
    expect(screen.getByRole("tabpanel").textContent).toContain(":root");
    fireEvent.keyDown(tab("tokens.css"), { key: "ArrowLeft" });
    expect(tab("BedCard.module.css").getAttribute("aria-selected")).toBe("true");
    expect(document.activeElement).toBe(tab("BedCard.module.css"));
    fireEvent.keyDown(tab("BedCard.module.css"), { key: "ArrowLeft" });
    fireEvent.keyDown(tab("BedCard.tsx"), { key: "ArrowLeft" }); // there is none before
    expect(tab("BedCard.tsx").getAttribute("aria-selected")).toBe("true");
  });

  it("opens at the file its address names, and is taken away from the project it is of", async () => {
    server.answer("GET /components/bed-card/files", () => files);
    opened("/bench/bed-card/code?file=tokens.css");
    expect((await screen.findByRole("tab", { selected: true })).textContent).toBe("tokens.css");
    expect(screen.getByRole("link", { name: "Download all" }).getAttribute("href")).toBe(
      "/api/projects/hollowbeck/components/bed-card/files.zip",
    );
    expect(screen.getByRole("button", { name: "Copy tokens.css" })).toBeTruthy();
    expect(screen.getByRole("link", { name: "BedCard" }).getAttribute("href")).toBe("/bench/bed-card");
  });
});
