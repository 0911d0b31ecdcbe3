import { fireEvent, screen, waitFor, within } from "@testing-library/react";
import { beforeEach, describe, expect, it } from "vitest";

import type { Schema } from "../../api/client";
import { Refusal, server, show } from "../../test-server";
import { Outputs } from "./Outputs";

type Output = Schema["Output"];

const setting = (id: string, name: string, ...values: string[]) => ({
  id,
  name,
  options: values.map((value) => ({ value, words: `so: ${value}` })),
});
const css: Schema["Language"] = {
  id: "css",
  name: "CSS",
  file: "tokens.css",
  prefix: true,
  register: true,
  holds: [
    { setting: "names", values: ["hyphens", "capitals"] },
    { setting: "lengths", values: ["written", "px", "rem"] },
    { setting: "themes", values: ["together", "apart"] },
  ],
};
const kotlin: Schema["Language"] = {
  id: "kotlin",
  name: "Kotlin",
  file: "Tokens.kt",
  prefix: true,
  register: false,
  holds: [
    { setting: "names", values: ["capitals"] },
    { setting: "lengths", values: ["px"], why: "a length counts dp" },
    { setting: "themes", values: ["apart"], why: "a property has one value" },
  ],
};
const view: Schema["OutputsView"] = {
  revision: 5,
  own: false,
  outputs: [
    { output: { file: "tokens.css", language: "css", lengths: "rem" }, about: "CSS, rem" },
    { output: { file: "Tokens.kt", language: "kotlin" }, about: "Kotlin" },
  ],
  settings: [
    setting("names", "Names", "hyphens", "capitals"),
    setting("lengths", "Lengths", "written", "px", "rem"),
    setting("themes", "Themes", "together", "apart"),
  ],
  languages: [css, kotlin],
  groups: [{ path: "soil", tokens: 9 }],
};
const tokens = {
  themes: [{ name: "day" }, { name: "dusk" }],
  rows: [
    { path: "soil.900", type: "color" },
    { path: "space.2", type: "dimension" },
  ],
} as unknown as Schema["TokensView"];
const build = "POST /tokens/outputs/build";
const problem = (pointer: string, message: string) => ({ rule: "r", severity: "error", pointer, message, fix: "choose px" });

beforeEach(() => {
  server.answer("GET /tokens/outputs", () => view);
  server.answer(build, ({ output, path }: { output: Output; path: string }) => {
    const problems = [
      ...(output.language === "kotlin" && output.lengths === "rem" ? [problem("/lengths", "Lengths cannot be rem in Kotlin.")] : []),
      ...(output.prefix === "x" ? [problem("", "2 tokens would be called x.")] : []),
    ];
    return {
      about: "",
      problems,
      way: problems.length || output.without ? [] : [{ says: "as written", lines: [`the value of ${path}`] }],
      files: problems.length
        ? []
        : [
            {
              name: output.file,
              text: ":root {\n  --soil: 1;\n  --space: 2;\n}\n",
              lines: [2, 3].map((number) => ({ number, path: number === 2 ? "soil.900" : "space.2" })),
            },
            { name: "dusk.css", text: ".dusk {}\n", lines: [] },
          ],
    };
  });
  for (const write of ["POST /tokens/outputs", "POST /tokens/outputs/remove", "POST /tokens/outputs/restore"])
    server.answer(write, () => ({ revision: 6 }));
});

async function opened(address = "/") {
  show(<Outputs tokens={tokens} />, address);
  await screen.findByText(/the value of/);
}
const asked = () => server.asked(build).at(-1) as { output: Output; was: string; path: string };
const button = (name: string) => screen.getByRole<HTMLButtonElement>("button", { name });
const choose = (name: string, value: string) => fireEvent.change(screen.getByLabelText(name), { target: { value } });

describe("what tokens are written to", () => {
  it("shows an output's settings, a length's way, and the file", async () => {
    await opened();
    expect(asked()).toEqual({ output: view.outputs[0]!.output, was: "tokens.css", path: "space.2" });
    expect(screen.getByLabelText<HTMLSelectElement>("Lengths").value).toBe("rem");
    expect(screen.getByLabelText<HTMLSelectElement>("Themes").value).toBe("together");
    expect(screen.getByText("4 lines, 0.0 KB")).toBeTruthy();
    expect(button("Save").disabled).toBe(true);
  });

  it("asks what comes of a changed setting, and saves it in the place of what was", async () => {
    await opened();
    choose("File", "web.css");
    choose("Lengths", "px");
    await waitFor(() => expect(asked().output).toEqual({ file: "web.css", language: "css", lengths: "px" }));
    choose("Lengths", "written"); // the language's first needs no saying
    await waitFor(() => expect(asked().output).toEqual({ file: "web.css", language: "css" }));
    fireEvent.click(button("Save"));
    await waitFor(() =>
      expect(server.asked("POST /tokens/outputs")).toEqual([
        { revision: 5, was: "tokens.css", output: { file: "web.css", language: "css" } },
      ]),
    );
  });

  it("says what a language cannot hold, beside the setting, and writes nothing", async () => {
    await opened();
    choose("Language", "kotlin");
    const said = await screen.findByText(/Lengths cannot be rem in Kotlin. Choose px./);
    expect(asked().output.file, "the file is named by its language").toBe("Tokens.kt");
    expect(said.closest("div")?.contains(screen.getByLabelText("Lengths"))).toBe(true);
    expect(button("Save").disabled).toBe(true);
    expect(screen.getByText(/Nothing is written until/)).toBeTruthy();
    choose("Lengths", "px");
    await waitFor(() => expect(button("Save").disabled).toBe(false));
    expect(screen.queryByLabelText("Lengths"), "one that can be nothing else is no control").toBeNull();
    expect(screen.getByText("a length counts dp")).toBeTruthy();
    fireEvent.click(button("Discard changes"));
    expect(screen.getByLabelText<HTMLSelectElement>("Language").value).toBe("css");
  });

  it("says two tokens of one name, and saves nothing", async () => {
    await opened();
    choose("prefix", "x");
    expect(await screen.findByText(/2 tokens would be called x/)).toBeTruthy();
    expect(screen.getByText("Nothing can be written so.")).toBeTruthy();
    expect(button("Save").disabled).toBe(true);
  });

  it("sets root size, whole px, groups and registration", async () => {
    await opened();
    fireEvent.change(screen.getByRole("spinbutton"), { target: { value: "10" } });
    fireEvent.click(screen.getByRole("checkbox", { name: "whole px" }));
    fireEvent.click(screen.getByRole("checkbox", { name: "with @property" }));
    choose("Groups", "without");
    const groups = screen.getByLabelText("Groups that are left out", { selector: "input" });
    fireEvent.click(groups);
    fireEvent.click(await screen.findByRole("option", { name: "soil", hidden: true }));
    await waitFor(() => expect(asked().output).toMatchObject({ root: 10, whole: true, register: true, without: ["soil"] }));
    expect(await screen.findByText("It is not among the groups that are written.")).toBeTruthy();
    choose("Groups", "all");
    await waitFor(() => expect(asked().output).not.toHaveProperty("without"));
  });

  it("shows the way of a token whose line is pressed", async () => {
    await opened("/?output=tokens.css");
    const text = screen.getByText(/:root/).closest("pre")!;
    text.getBoundingClientRect = () => ({ top: 100, height: 80 }) as DOMRect;
    fireEvent.click(text, { clientY: 125 });
    expect(await screen.findByText("the value of soil.900")).toBeTruthy();
    fireEvent.click(text, { clientY: 105 });
    expect(asked().path).toBe("soil.900");
  });

  it("adds, removes and restores outputs", async () => {
    server.answer("GET /tokens/outputs", () => ({ ...view, own: true }));
    await opened();
    fireEvent.click(button("Remove"));
    await waitFor(() => expect(server.asked("POST /tokens/outputs/remove")).toEqual([{ revision: 5, file: "tokens.css" }]));
    fireEvent.click(button("Restore standard"));
    await waitFor(() => expect(server.asked("POST /tokens/outputs/restore")).toEqual([{ revision: 5 }]));
    fireEvent.click(button("Add an output"));
    fireEvent.click(await screen.findByRole("menuitem", { name: "Kotlin" }));
    const list = within(screen.getByRole("navigation", { name: "Outputs" }));
    expect(await list.findByText("not saved yet")).toBeTruthy();
    choose("File", "More.kt");
    await waitFor(() => expect(asked()).toMatchObject({ was: "", output: { file: "More.kt", language: "kotlin" } }));
    fireEvent.click(button("Save"));
    await waitFor(() =>
      expect(server.asked("POST /tokens/outputs")).toMatchObject([{ was: "", output: { file: "More.kt", language: "kotlin" } }]),
    );
  });

  it("keeps what was changed when somebody else was quicker, and says so", async () => {
    server.answer("POST /tokens/outputs", () => new Refusal({ status: 409, message: "Somebody changed the tokens since you read them." }));
    await opened();
    choose("Lengths", "px");
    await waitFor(() => expect(button("Save").disabled).toBe(false));
    fireEvent.click(button("Save"));
    expect(await screen.findByText(/Somebody changed the tokens/)).toBeTruthy();
    expect(screen.getByLabelText<HTMLSelectElement>("Lengths").value).toBe("px");
  });
});
