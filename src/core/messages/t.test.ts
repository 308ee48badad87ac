import { afterEach, describe, expect, it } from "vitest";
import { bare, some } from "./articles";
import { displayName } from "./names";
import { locale, said, speakBy, t, text, within } from "./t";

const german = {
  locale: "de-DE",
  catalogue: {
    Slots: "Slots der Seite",
    "{count, plural, one {# page} other {# pages}}": "{count, plural, one {# Seite} other {# Seiten}}",
    "{name} of {slot}": "{slot}: {name}",
    "a {word}": "{word}",
  },
};
afterEach(() => speakBy(() => undefined));

describe("messages", () => {
  it("are English where nobody said otherwise, also where a catalogue lacks one", () => {
    expect(t("Slots")).toBe("Slots");
    expect(locale()).toBe("en-GB");
    speakBy(() => german);
    expect(t("Slots")).toBe("Slots der Seite");
    expect(t("Redo")).toBe("Redo");
  });

  it("put values in their places, and counts choose their words", () => {
    expect(t("{name} of {slot}", { name: "A {b}", slot: "$& hero" })).toBe("A {b} of $& hero");
    expect(t("{count, plural, one {# page} other {# pages}}", { count: 1 })).toBe("1 page");
    expect(t("{count, plural, one {# page} other {# pages}}", { count: 1200 })).toBe("1,200 pages");
    speakBy(() => german);
    expect(t("{name} of {slot}", { name: "A", slot: "hero" })).toBe("hero: A");
    expect(t("{count, plural, one {# page} other {# pages}}", { count: 1200 })).toBe("1.200 Seiten");
  });

  it("without values take braces as plain signs", () => {
    expect(t("write '{' to show one")).toBe("write '{' to show one");
  });

  it("of tables are said when they are read, not when they are made", () => {
    const table = said({ slots: text("Slots"), rows: [{ name: text("Slots"), at: 1 }], plain: "Slots" });
    expect(table).toEqual({ slots: "Slots", rows: [{ name: "Slots", at: 1 }], plain: "Slots" });
    speakBy(() => german);
    expect(table.slots).toBe("Slots der Seite");
    expect(table.rows[0].name).toBe("Slots der Seite");
    expect(table.plain).toBe("Slots");
  });

  it("name countries, languages and currencies, and know their articles", () => {
    expect(displayName("region", "DE")).toBe("Germany");
    expect(bare("the campaign name")).toBe("campaign name");
    expect(some("the audience")).toBe("an audience");
    expect(within("Place list")).toBe("place list");
    speakBy(() => german);
    expect(displayName("region", "DE")).toBe("Deutschland");
    expect(displayName("language", "no such tag")).toBeUndefined();
    expect(bare("der Kampagnenname")).toBe("Kampagnenname");
    expect(some("der Kampagnenname")).toBe("Kampagnenname");
    expect(within("Ortsliste")).toBe("Ortsliste");
  });
});
