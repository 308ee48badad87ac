"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Checkbox from "@mui/material/Checkbox";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useSnackbar } from "notistack";
import { useState } from "react";
import type { Edit } from "@/core/draft/edit";
import { anyEvent, readCalendar, type CalendarRead } from "@/core/exchange/ical-in";
import { calendarOf } from "@/core/exchange/ical-out";
import { tableText } from "@/core/formats/table";
import type { Rule } from "@/core/formats/rule";
import { RuleSentence } from "../parts/sentence-text";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { addressOf } from "../parts/desk/screens";
import { useGo } from "../parts/desk/use-go";
import { chooseFiles, saveFile } from "../parts/files";
import { freshName } from "../parts/fresh";
import { ProblemList } from "../parts/problem-list";
import { now } from "@/clock";

/** The calendar of what is live, to subscribe to. */
export function CalendarOut() {
  const { actions, look, live, may } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const { value: key, asking, set: setKey } = useAsked("calendar", []);
  const renew = () =>
    actions.renewCalendar().then(setKey, (error: unknown) => enqueueSnackbar(whyNot(error), { variant: "error" }));
  const address = key ? `${location.origin}/calendar/${key}.ics` : "";
  return (
    <section className="stack" aria-label={t("Calendar out")}>
      <h2>{t("Calendar of what is shown when")}</h2>
      <span className="quiet">
        {t(
          "Every variant, pop-up and redirect that goes by the time, as an iCalendar with its time zones. Subscribe to the address in any calendar program; anyone who knows it can read it.",
        )}
      </span>
      {address && (
        <code className="code wrapped" aria-label={t("Address of the calendar")} role="group">
          {address}
        </code>
      )}
      <div className="row wrap">
        {address && (
          <Button
            variant="contained"
            onClick={() =>
              void navigator.clipboard.writeText(address).then(() => enqueueSnackbar(t("The address is copied")))
            }
          >
            {t("Copy the address")}
          </Button>
        )}
        {(key !== undefined || !asking) && (
          <Button
            variant={address ? "outlined" : "contained"}
            disabled={!may("build")}
            title={may("build") ? undefined : t("A developer makes it")}
            onClick={() => void renew()}
          >
            {address ? t("Create new address") : t("Create address")}
          </Button>
        )}
        {live && (
          <Button onClick={() => saveFile("live.ics", calendarOf(live.ruleset, { now: now() }), "text/calendar")}>
            {t("Export live")}
          </Button>
        )}
        <Button
          onClick={() => saveFile("draft.ics", calendarOf(look.runnable.ruleset, { now: now() }), "text/calendar")}
        >
          {t("Export draft")}
        </Button>
      </div>
    </section>
  );
}

/** A calendar of live events becomes an audience, to be used in any rule. */
export function CalendarIn() {
  const { draft, ruleset } = useDesk();
  const go = useGo();
  const { enqueueSnackbar } = useSnackbar();
  const [read, setRead] = useState<CalendarRead & { file: string }>();
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const [name, setName] = useState("");
  const [variant, setVariant] = useState("");
  const choose = async () => {
    const [file] = await chooseFiles(".ics,text/calendar");
    if (!file) return;
    const text = tableText(new Uint8Array(await file.arrayBuffer()));
    const found: CalendarRead =
      "problems" in text ? { name: "", events: [], problems: text.problems } : readCalendar(text.text);
    setLeft(new Set());
    setVariant("");
    setName(
      t("While: {name}", { name: found.name || (found.events[0]?.name ?? file.name.replace(/\.ics$/i, "")) }).slice(
        0,
        120,
      ),
    );
    setRead({ ...found, file: file.name });
  };
  const events = read?.events.filter((event) => !left.has(event.line)) ?? [];
  const keep = () => {
    const id = freshName("events");
    const edits: Edit[] = [
      {
        do: "insert",
        list: ["audiences"],
        index: ruleset.audiences.length,
        item: { id, name: name.trim(), rule: anyEvent(events) },
      },
    ];
    const [slotId = "", variantId = ""] = variant.split("/");
    const chosen = ruleset.slots.find((slot) => slot.id === slotId)?.variants.find((item) => item.id === variantId);
    if (chosen) {
      const { rule } = chosen;
      const part: Rule = { audience: id };
      const after: Rule = rule === null ? part : "all" in rule ? { all: [...rule.all, part] } : { all: [rule, part] };
      edits.push({ do: "set", at: ["slots", slotId, "variants", variantId, "rule"], before: rule, after });
    }
    draft.edit(t("Audience {name} made of the calendar {file}", { name: name.trim(), file: read?.file }), edits);
    enqueueSnackbar(
      chosen
        ? t("“{chosen}” now shows while one of these events lasts", { chosen: chosen.name })
        : t("The events are kept as an audience"),
    );
    go(addressOf("/audiences", id));
  };
  return (
    <section className="stack" aria-label={t("Calendar in")}>
      <h2>{t("Events: a calendar becomes a schedule")}</h2>
      <span className="quiet">
        {t(
          "An .ics file of your streams, sales or opening hours becomes an audience that holds while one of its events lasts, with the time zones of the calendar. Use it in any rule.",
        )}
      </span>
      <div className="row">
        <Button variant="contained" onClick={() => void choose()}>
          {t("Import calendar")}
        </Button>
      </div>
      {read && (
        <div className="stack">
          <b>
            {read.file}: {t("{events, plural, one {# event} other {# events}}", { events: read.events.length })}
          </b>
          {read.problems.length > 0 && <ProblemList problems={read.problems} />}
          {read.events.length > 0 && (
            <>
              <ul className="plain">
                {read.events.map((event) => (
                  <li key={event.line} className="row line">
                    <Checkbox
                      checked={!left.has(event.line)}
                      onChange={() =>
                        setLeft((old) => {
                          const next = new Set(old);
                          if (!next.delete(event.line)) next.add(event.line);
                          return next;
                        })
                      }
                      slotProps={{ input: { "aria-label": t("Take {event}", { event: event.name }) } }}
                    />
                    <b style={{ width: 190 }}>{event.name}</b>
                    <span className="rule" style={{ flex: 1 }}>
                      <RuleSentence rule={event.rule} names={ruleset} everyone="" />
                    </span>
                    {event.notes.length > 0 && <span className="unsure">{event.notes.join("; ")}</span>}
                  </li>
                ))}
              </ul>
              <div className="row wrap">
                <TextField
                  label={t("Audience")}
                  value={name}
                  error={name.trim() === ""}
                  onChange={(event) => setName(event.target.value)}
                  sx={{ width: 300 }}
                />
                <TextField
                  select
                  label={t("Also ask for it in")}
                  value={variant}
                  onChange={(event) => setVariant(event.target.value)}
                  sx={{ width: 300 }}
                >
                  <MenuItem value="">{t("no variant, only keep it")}</MenuItem>
                  {ruleset.slots.flatMap((slot) =>
                    slot.variants.map((item) => (
                      <MenuItem key={`${slot.id}/${item.id}`} value={`${slot.id}/${item.id}`}>
                        {slot.name}, {item.name}
                      </MenuItem>
                    )),
                  )}
                </TextField>
                <Button variant="contained" disabled={events.length === 0 || name.trim() === ""} onClick={keep}>
                  {t("Keep {events, plural, one {this event} other {these # events}}", { events: events.length })}
                </Button>
              </div>
            </>
          )}
        </div>
      )}
    </section>
  );
}
