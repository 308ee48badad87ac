/** Links, results, the calendar and the archive of a site, in the database. */
import { randomUUID } from "node:crypto";
import { unzipSync, zipSync } from "fflate";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { CampaignLink } from "@/core/campaigns/link";
import { readArchive } from "@/core/exchange/archive";
import { siteDraftSchema } from "@/core/formats/site-draft";
import { dimensions, outcomes, parted } from "@/core/results/results";
import { bandOf, worthOf } from "@/core/results/worth";
import { ofNobody, ruleset, site, variant } from "@/core/testing";
import { readAudit } from "@/data/audit";
import { listChecks, saveChecks } from "@/data/checks";
import { addPlaceFile, deliverySettings, listPlaceFiles, saveDelivery } from "@/data/delivery";
import { createSite, loadDraft } from "@/data/draft";
import { keepEvents, tendPartitions } from "@/data/events";
import { listLenses, saveLens } from "@/data/lenses";
import { listLinks, saveLinks } from "@/data/links";
import { listState } from "@/data/lists";
import { migrate } from "@/data/migrate";
import { addPages, listPages } from "@/data/pages";
import type { SignedIn } from "@/data/people";
import { allSites, pool, transaction } from "@/data/pool";
import { putLive } from "@/data/releases";
import { digest } from "@/data/secret-names";
import { countedSlots, hourRows, resultRows, valueRows } from "@/data/results";
import { makeArchive, takeArchive } from "@/server/archive";
import { changeDraft, undoChange } from "@/server/draft";
import { calendarByKey } from "@/server/calendar";
import { resultActions } from "@/server/actions/results";
import { sendingActions } from "@/server/actions/sending";
import { sharedResults, sharedTable } from "@/server/results";
import { everything, somebody, uniqueId } from "./support";
import { now, nowText } from "@/clock";

const id = uniqueId("sending");
const clinic = {
  signal: "time",
  op: "within",
  value: { zone: "site", days: ["TU"], windows: [{ start: "10:00", end: "12:00" }] },
};
const first = siteDraftSchema.parse(
  ruleset({ site: { ...site, id, zone: "UTC" }, slots: [{ id: "s", name: "S", variants: [variant("a", clinic)] }] }),
);
const link = (name: string): CampaignLink => ({
  id: name,
  name,
  path: "/",
  tags: [{ name: "utm_source", value: name }],
  part: "",
  note: "",
  usedBy: "",
});
let who: SignedIn;
let author: SignedIn;

describe("sending people, and what came of it", () => {
  beforeAll(async () => {
    await migrate();
    await tendPartitions(everything);
    await transaction(allSites, async (db) => {
      await createSite(first, db);
      await putLive(
        { site: id, person: "mirada", note: "First", ruleset: first, sha256: "0".repeat(64), draftVersion: 1 },
        db,
      );
    });
    who = await somebody(id, "everything");
    author = await somebody(id, "author", ["author"]);
  });
  afterAll(() => pool().end());

  it("keeps links all or none, in their order, with a line of who did it", async () => {
    const kept = await sendingActions.keepLinks.run(author, [link("one"), link("two")]);
    expect(kept.kept.map((item) => item.id)).toEqual(["one", "two"]);
    await sendingActions.keepLinks.run(author, [{ ...link("one"), name: "Renamed" }]);
    expect((await listLinks(id)).map((item) => item.name)).toEqual(["Renamed", "two"]);
    await expect(saveLinks(id, [link("three"), { ...link("four"), path: null as never }])).rejects.toThrow();
    expect((await listLinks(id)).map((item) => item.id)).toEqual(["one", "two"]);
    // Answers tell the list's marks and what was kept, not the whole list.
    const renamed = await sendingActions.keepLinks.run(author, [{ ...link("one"), name: "Renamed" }]);
    expect(renamed).toMatchObject({ was: renamed.mark, kept: [{ id: "one" }] });
    const dropped = await sendingActions.dropLink.run(author, "two");
    expect(dropped).toMatchObject({ was: renamed.mark, kept: [] });
    expect(await listState(id, "links")).toEqual({ count: 1, mark: dropped.mark });
    expect((await listLinks(id)).map((item) => item.id)).toEqual(["one"]);
    const lines = (await readAudit(id, { kind: "links" })).map((line) => line.says);
    expect(lines).toEqual([
      "The link “two” was deleted",
      "The link “Renamed” was changed",
      "The link “Renamed” was changed",
      "2 links were read from a file",
    ]);
  });

  it("counts by day of the zone, by country, source and device, and each adds up to the same", async () => {
    const at = (hour: number, minute: number) => new Date(Date.UTC(2026, 10, 24, hour, minute));
    const shift = now() - at(12, 0).getTime();
    const days = Math.floor(shift / 86_400_000) * 86_400_000;
    const event = (hour: number, more: object) => ({
      site: id,
      id: randomUUID(),
      at: new Date(at(hour, 30).getTime() + days).toISOString(),
      kind: "exposure" as const,
      slot: "s",
      variant: "a",
      arm: "a",
      first: true,
      name: "",
      value: 0,
      ...ofNobody,
      country: "PT",
      source: "mossmail",
      device: "phone",
      ...more,
    });
    const made = [
      event(9, {}),
      event(9, { country: "ES", first: false }),
      event(10, { variant: "", arm: "", source: "" }),
      event(11, { kind: "click", name: "/x" }),
      event(11, { kind: "conversion", name: "order", value: 2590 }),
      event(23, { device: "desktop", campaign: "winter", language: "pt", system: "linux", visits: "back" }),
    ];
    await keepEvents(made);
    const day = (plus: number) => new Date(at(0, 0).getTime() + days + plus * 86_400_000).toISOString().slice(0, 10);
    const rows = await resultRows(id, "s", day(0), day(0));
    const whole = outcomes(
      rows.filter((row) => row.of === "day"),
      "order",
    );
    expect(whole.find((item) => item.variant === "a")).toEqual({
      variant: "a",
      arm: "a",
      exposures: 3,
      visitors: 2,
      clicks: 1,
      clicked: 1,
      conversions: 1,
      converted: 1,
      value: 2590,
    });
    for (const of of dimensions.filter((one) => one !== "day")) {
      const sum = parted(rows, of, "order")
        .flatMap((part) => part.outcomes)
        .filter((item) => item.variant === "a")
        .reduce((total, item) => total + item.exposures, 0);
      expect([of, sum]).toEqual([of, 3]);
    }
    const groups = rows.filter((row) => row.kind === "exposure" && row.key !== "").map((row) => `${row.of} ${row.key}`);
    expect(groups).toEqual(expect.arrayContaining(["campaign winter", "language pt", "system linux", "visits back"]));
    // In Tokyo the last of them happened on the next day.
    const elsewhere = uniqueId("tokyo");
    const there = siteDraftSchema.parse(ruleset({ site: { ...site, id: elsewhere, zone: "Asia/Tokyo" } }));
    await transaction(allSites, (db) => createSite(there, db));
    await keepEvents(made.map((one) => ({ ...one, site: elsewhere })));
    const tokyo = await resultRows(elsewhere, "s", day(1), day(1));
    expect(await hourRows(elsewhere, "s", day(1), day(1))).toHaveLength(1);
    expect(outcomes(tokyo.filter((row) => row.of === "day"))).toMatchObject([{ variant: "a", exposures: 1 }]);
    expect(await countedSlots(id, day(0), day(2))).toEqual([
      { slot: "s", exposures: 4, visitors: 3, clicked: 1, converted: { order: 1 } },
    ]);
    const answer = await resultActions.results.run(who, "s", day(0), nowText().slice(0, 10), "source");
    expect(answer.releases.map((item) => item.why)).toEqual(["First"]);
    await expect(resultActions.results.run(who, "s", "2026-01-02", "2026-01-01", "source")).rejects.toThrow("400 days");
  });

  it("keeps what visitors were worth the first time, in bands whose sums are exact", async () => {
    const at = new Date(now() - 2 * 86_400_000).toISOString();
    const bought = (value: number, more: object = {}) => ({
      ...{ site: id, id: randomUUID(), at, kind: "conversion" as const, slot: "worth", variant: "a", arm: "a" },
      ...{ first: true, name: "order", value, ...ofNobody, ...more },
    });
    const values = [1, 990, 1000, 1023, 1024, 2590, 2590, 999_999_999_999];
    const none = [
      bought(5000, { first: false }),
      bought(0),
      bought(5000, { kind: "click" }),
      bought(5000, { apart: "bot" }),
    ];
    await keepEvents([...values.map((value) => bought(value)), ...none, bought(7, { name: "letter", arm: "b" })]);
    await keepEvents([bought(2590)]);
    const days = [at, nowText()].map((one) => one.slice(0, 10)) as [string, string];
    const rows = await valueRows(id, "worth", new Date(now() - 4 * 86_400_000).toISOString().slice(0, 10), days[1]);
    const orders = rows.filter((row) => row.name === "order");
    const wanted = [...values, 2590].sort((a, b) => a - b);
    expect(orders.reduce((sum, row) => sum + row.count, 0)).toBe(wanted.length);
    expect(worthOf(orders, 100, Infinity)).toMatchObject({
      of: 100,
      some: wanted.length,
      sum: wanted.reduce((sum, one) => sum + one, 0),
    });
    expect(new Map(orders.map((row) => [row.band, row.count]))).toEqual(
      wanted.reduce(
        (bands, one) => bands.set(bandOf(one), (bands.get(bandOf(one)) ?? 0) + 1),
        new Map<number, number>(),
      ),
    );
    expect(rows.filter((row) => row.name === "letter")).toMatchObject([{ arm: "b", count: 1, sum: 7, squares: 49 }]);
  });

  it("deletes what was counted of one slot, on its days alone, with a line in the audit trail", async () => {
    const at = (days: number) => new Date(now() - days * 86_400_000).toISOString();
    const seen = (slot: string, days: number) => ({
      ...{ site: id, id: randomUUID(), at: at(days), kind: "exposure" as const, slot, variant: "a", arm: "a" },
      ...{ first: true, name: "", value: 0, ...ofNobody },
    });
    const bought = { ...seen("junk", 1), id: randomUUID(), kind: "conversion" as const, name: "order", value: 900 };
    await keepEvents([seen("junk", 1), seen("junk", 1), bought, seen("junk", 9), seen("kept", 1)]);
    const day = (days: number) => at(days).slice(0, 10);
    await resultActions.forgetCounts.run(who, "junk", day(2), nowText().slice(0, 10));
    const rows = async (slot: string) =>
      (await resultRows(id, slot, day(12), nowText().slice(0, 10))).filter((row) => row.of === "day");
    expect(await rows("junk")).toMatchObject([{ kind: "exposure", count: 1 }]);
    expect(await rows("kept")).toMatchObject([{ kind: "exposure", count: 1 }]);
    expect(await valueRows(id, "junk", day(12), nowText().slice(0, 10))).toEqual([]);
    const left = await everything.query("select slot from events where site = $1 and slot in ('junk', 'kept')", [id]);
    expect(left.rows).toHaveLength(2);
    expect((await readAudit(id, { kind: "results" }))[0]?.says).toMatch(/^What was counted of junk .* 2 exposures/);
  });

  it("tells the same by hour, as a table that adds up to it", async () => {
    const [from, until] = [new Date(now() - 20 * 86_400_000).toISOString().slice(0, 10), nowText().slice(0, 10)];
    const rows = await hourRows(id, "s", from, until);
    expect(rows.filter((row) => row.kind === "exposure").reduce((sum, row) => sum + row.count, 0)).toBe(4);
    expect(rows.every((row) => /T\d\d:00:00Z$/.test(row.hour))).toBe(true);
    const csv = await resultActions.resultHours.run(who, "s", from, until);
    expect(csv.trim().split("\r\n")).toHaveLength(rows.length + 1);
  });

  it("keeps what happened on a day, for those who may be here, with a line in the audit trail", async () => {
    const today = nowText().slice(0, 10);
    await resultActions.annotate.run(who, today, "The price went down");
    const read = () => resultActions.results.run(who, "s", today, today, "source");
    expect((await read()).annotations).toMatchObject([{ day: today, says: "The price went down" }]);
    const [one] = (await read()).annotations;
    await resultActions.dropAnnotation.run(who, one!.id);
    await resultActions.dropAnnotation.run(who, one!.id);
    expect((await read()).annotations).toEqual([]);
    const said = (await readAudit(id, { kind: "results" })).slice(0, 2).map((line) => line.says);
    expect(said).toEqual([
      `The note on ${today} was deleted: The price went down`,
      `On ${today} was noted: The price went down`,
    ]);
  });

  it("is read by whoever has a link, of one slot alone, until it ends; the database does not know its name", async () => {
    const today = nowText().slice(0, 10);
    const shown = { slot: "s", goal: "order", from: today, until: null };
    const name = await resultActions.shareResults.run(who, { ...shown, days: 7 });
    expect(name).toMatch(/^[\w-]{32}$/);
    // Parted by what is asked for; by the source where that is no kind of group.
    const by = async (asked?: string) => {
      const counts = (await sharedResults(name, asked))?.counts;
      expect(new Set(counts?.rows.map((row) => row.of))).toEqual(
        new Set(counts?.rows.length ? ["day", counts.by] : []),
      );
      return counts?.by;
    };
    expect([await by(), await by("country"), await by("nothing")]).toEqual(["source", "country", "source"]);
    expect(await sharedTable(name, "order")).toMatch(/^slot,by,of,variant/);
    expect(await sharedTable("x".repeat(32), "order")).toBeUndefined();
    expect(await sharedResults(name)).toMatchObject({ slot: { id: "s" }, goal: "order", from: today, until: today });
    for (const other of ["", "x".repeat(32), `${name}x`, digest(name)])
      expect(await sharedResults(other)).toBeUndefined();
    // What variants say, and to whom, is not in it: their rules are the site's own.
    const told = JSON.stringify(await sharedResults(name));
    for (const secret of ['"rule"', "10:00", "windows"]) expect(told).not.toContain(secret);
    const [listed] = await resultActions.resultLinks.run(who);
    expect(listed).toMatchObject({ slot: "s", until: null, madeBy: who.id });
    expect(JSON.stringify(listed)).not.toContain(name);
    await resultActions.endResultLink.run(who, listed!.id);
    expect(await sharedResults(name)).toBeUndefined();
    expect(await resultActions.resultLinks.run(who)).toEqual([]);
  });

  it("gives its calendar to whoever knows its address, and another address when asked", async () => {
    expect(await sendingActions.calendar.run(who)).toBeNull();
    for (const none of ["", "nothing"]) expect(await calendarByKey(none)).toBeUndefined();
    const key = await sendingActions.renewCalendar.run(who);
    expect(key).toMatch(/^[\w-]{24}$/);
    expect(await sendingActions.calendar.run(author)).toBe(key);
    expect((await calendarByKey(key))?.text).toContain("RRULE:FREQ=WEEKLY;BYDAY=TU");
    const other = await sendingActions.renewCalendar.run(who);
    expect(await calendarByKey(key)).toBeUndefined();
    expect((await calendarByKey(other))?.text).toContain("SUMMARY:S\\, a");
  });

  it("packs everything into an archive, and takes it back in its place", async () => {
    const at = { at: "2026-11-24T10:15:00Z", url: "https://shop.example/" };
    await saveChecks(id, [
      { id: "c", name: "C", visit: at, steps: [], expect: { slot: "s", variant: "a" } },
      { id: "d", name: "D, the fallback", visit: at, steps: [], expect: { slot: "s", variant: null } },
    ]);
    await saveLens(id, {
      id: "l",
      name: "L",
      visit: { at: "2026-11-24T10:15:00Z", url: "https://shop.example/" },
      steps: [],
    });
    await addPages(id, [{ path: "/", title: "Home", facts: { id: "home" } }], everything);
    await addPlaceFile(
      id,
      { id: "p", name: "places.csv", format: "csv", says: "1 network" },
      Buffer.from("network,country\n192.0.2.0/24,PT\n"),
    );
    await saveDelivery(id, "otherHosts", ["partner.example"]);
    const bytes = (await makeArchive(id))!;
    const files = Object.keys(unzipSync(bytes));
    expect(files).toEqual(
      expect.arrayContaining([
        "README.txt",
        "draft.json",
        "links.csv",
        "place-data/p",
        "releases.json",
        "results/s.csv",
      ]),
    );
    const before = readArchive(bytes);
    // Everything is changed, and then put back.
    await changeDraft(who, "Renamed", [{ do: "set", at: ["slots", "s", "name"], before: "S", after: "Other" }]);
    await saveLinks(id, [link("more")]);
    await saveDelivery(id, "otherHosts", []);
    await everything.query("delete from lenses where site = $1", [id]);
    expect(await takeArchive(author, bytes)).toMatchObject({
      ok: false,
      problem: expect.stringContaining("an editor’s"),
    });
    expect(await takeArchive(who, bytes)).toMatchObject({ ok: true });
    expect("archive" in before && before.archive.draft).toEqual((await loadDraft(id))?.ruleset);
    expect((await listLinks(id)).map((item) => item.id)).toEqual(["one"]);
    expect((await listLenses(id)).map((item) => item.id)).toEqual(["l"]);
    expect((await listChecks(id)).map((item) => item.expect)).toEqual([
      { slot: "s", variant: "a" },
      { slot: "s", variant: null },
    ]);
    expect((await listPages(id)).map((item) => item.path)).toEqual(["/"]);
    expect((await listPlaceFiles(id)).map((item) => item.name)).toEqual(["places.csv"]);
    expect((await deliverySettings(id)).otherHosts).toEqual(["partner.example"]);
    // The draft's part of it is a change like any other.
    expect(await undoChange(who)).toMatchObject({ ok: true });
    expect((await loadDraft(id))?.ruleset.slots[0]?.name).toBe("Other");
  });

  it("changes nothing by half: each thing wrong with an archive is told with its file and place", async () => {
    const files = unzipSync((await makeArchive(id))!);
    const text = (name: string) => new TextDecoder().decode(files[name]);
    const with_ = (more: Record<string, string>) =>
      zipSync({
        ...files,
        ...Object.fromEntries(Object.entries(more).map(([name, value]) => [name, new TextEncoder().encode(value)])),
      });
    const problems = async (bytes: Uint8Array) => {
      const done = await takeArchive(who, bytes);
      return done.ok
        ? []
        : (done.problems ?? [{ path: "", problem: done.problem }]).map((item) => `${item.path}: ${item.problem}`);
    };
    expect(await problems(new Uint8Array([1, 2, 3]))).toEqual([expect.stringContaining("no ZIP archive")]);
    expect(await problems(with_({ "site.json": '{"format":"else","site":"x","madeAt":"x"}' }))).toEqual([
      expect.stringContaining("site.json/format"),
    ]);
    expect(
      await problems(
        with_({ "links.json": text("links.json").replace('"path": "/"', '"path": "evil"'), "lenses.json": "{" }),
      ),
    ).toEqual([expect.stringContaining("lenses.json: is no JSON"), expect.stringContaining("links.json/0/path")]);
    expect(await problems(with_({ "place-data/p": "network,country\nnonsense,PT\n" }))).toEqual([
      expect.stringContaining("places.csv: Line 2"),
    ]);
    expect(
      await problems(
        with_({ "settings.json": text("settings.json").replace('"partner.example"', '"https://partner.example/x"') }),
      ),
    ).toEqual([expect.stringContaining("settings.json/otherHosts/0")]);
    const { "checks.json": _gone, ...rest } = files;
    expect(await problems(zipSync(rest))).toEqual(["checks.json: is missing"]);
    expect((await loadDraft(id))?.ruleset.slots[0]?.name).toBe("Other");
    expect((await listLinks(id)).map((item) => item.id)).toEqual(["one"]);
  });
});
