import { describe, expect, it } from "vitest";

import { people } from "./here";

const here = (tab: string, slug: string, more = {}) => JSON.stringify({ tab, name: tab, slug, at: "props/size name", ...more });

describe("where others are", () => {
  it("is what each window said last, until it leaves or says nothing for long", () => {
    people.hear(here("one", "tag"), 0);
    people.hear(here("two", "card"), 1000);
    people.hear(here(people.tab, "tag"), 1000);
    expect(people.all().map((o) => `${o.name} ${o.slug}`)).toEqual(["one tag", "two card"]);
    people.hear(here("two", ""), 2000);
    expect(people.all().map((o) => o.name)).toEqual(["one"]);
    people.tidy(39_000);
    expect(people.all()).toHaveLength(1);
    people.tidy(41_000);
    expect(people.all()).toHaveLength(0);
  });

  it("is answered when somebody who has just come asks", () => {
    let answers = 0;
    people.answer = () => answers++;
    people.hear(here("three", "tag"));
    expect(answers).toBe(0);
    people.hear(here("three", "tag", { asks: true }));
    expect(answers).toBe(1);
    people.answer = undefined;
  });
});
