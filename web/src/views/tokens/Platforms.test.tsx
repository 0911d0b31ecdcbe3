import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";

import type { Schema } from "../../api/client";
import { server, show } from "../../test-server";
import { Platforms } from "./Platforms";

const css: Schema["PlatformView"] = {
  name: "css",
  transforms: ["name-kebab", "size-rem", "color-hex"],
  outputs: [{ path: "tokens.css", format: "css" }],
  own: true,
};
const view: Schema["PlatformsView"] = {
  revision: 5,
  platforms: [css, { ...css, name: "swift", own: false, outputs: [] }],
  transforms: ["name-kebab", "size-rem", "color-hex", "size-px"].map((id) => ({ id, about: `What ${id} does` })),
};
const tokens = {
  rows: [
    { path: "soil.900", type: "color" },
    { path: "space.2", type: "dimension" },
  ],
} as unknown as Schema["TokensView"];
const build = "POST /tokens/platforms/build";

beforeEach(() => {
  server.answer("GET /tokens/platforms", () => view);
  server.answer(build, (body: { platform: Schema["Platform"] }) => ({
    files: [
      { name: "tokens.css", text: ":root {\n}\n" },
      { name: "dusk.css", text: ".dusk {}\n" },
    ],
    problems: body.platform.transforms[0] === "size-rem" ? [{ rule: "order", severity: "error", message: "Names come first" }] : [],
    steps: body.platform.transforms.map((transform) => ({
      transform,
      about: "",
      before: ["space.2: 8px"],
      after: transform === "size-rem" ? ["--space-2: 0.5rem"] : [],
      changed: transform === "size-rem",
    })),
  }));
  server.answer("POST /tokens/platforms", () => ({ revision: 6 }));
  server.answer("POST /tokens/platforms/css/forget", () => ({ revision: 6 }));
});

async function opened() {
  show(<Platforms tokens={tokens} />);
  await screen.findByText("→ --space-2: 0.5rem");
}
const click = (name: string) => fireEvent.click(screen.getByRole("button", { name }));
const asked = () => server.asked(build).at(-1) as { platform: Schema["Platform"]; path: string };

describe("what tokens are written as", () => {
  it("shows for a length what each transform makes of it", async () => {
    await opened();
    expect(asked().path).toBe("space.2");
    expect(screen.getAllByText("leaves it as it is")).toHaveLength(2);
    expect(screen.getByText("2 lines, 0.0 KB")).toBeTruthy();
  });

  it("changes the order, asks what comes of it, and saves only what can be written", async () => {
    await opened();
    const save = () => screen.getByRole<HTMLButtonElement>("button", { name: "Save" });
    expect(save().disabled).toBe(true);
    click("size-rem earlier");
    expect(await screen.findByText(/Names come first/)).toBeTruthy();
    expect(save().disabled).toBe(true);
    click("Discard changes");
    click("Without color-hex");
    await waitFor(() => expect(save().disabled).toBe(false));
    fireEvent.click(save());
    await waitFor(() => expect(server.asked("POST /tokens/platforms")).toHaveLength(1));
    expect(server.asked("POST /tokens/platforms")[0]).toMatchObject({
      revision: 5,
      platform: { name: "css", transforms: ["name-kebab", "size-rem"] },
    });
    expect(server.asked("POST /tokens/platforms")[0]).not.toHaveProperty("platform.own");
  });

  it("keeps references or writes them out, and restores what was shipped", async () => {
    await opened();
    fireEvent.click(screen.getByRole("switch", { name: "Aliases stay references" }));
    await waitFor(() => expect(asked().platform.references).toBe("flatten"));
    expect(screen.queryByRole("button", { name: "Restore standard" })).toBeNull();
    click("Discard changes");
    click("Restore standard");
    await waitFor(() => expect(server.asked("POST /tokens/platforms/css/forget")).toEqual([{ revision: 5 }]));
  });

  it("of another platform is a press away; what CSS alone has is not asked there", async () => {
    await opened();
    expect(screen.getByRole("checkbox", { name: "Register with @property" })).toBeTruthy();
    fireEvent.click(within(screen.getByRole("navigation", { name: "Platforms" })).getByRole("button", { name: "swift" }));
    await waitFor(() => expect(asked().platform.name).toBe("swift"));
    expect(screen.queryByRole("checkbox", { name: "Register with @property" })).toBeNull();
  });
});
