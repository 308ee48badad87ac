"use client";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { parseInstant, type Visit } from "@/core/formats/visit";
import { zonePhrase } from "@/core/rules/phrases";
import { formatLocal, parseLocal } from "@/core/calendar/calendar";
import { zoneOf } from "@/core/calendar/zone";
import { parseAddress } from "@/core/visit/address";
import { countryCodes, countryName } from "@/core/visit/countries";
import { readDevice } from "@/core/visit/device";
import { useDesk } from "../desk/desk";
import { pathOf } from "../desk/use-look";
import { presets, withDevice } from "../devices";
import { DateField } from "../dates/date-field";
import { Field } from "../field";
import { useSite } from "../page-frame/use-site";
import { cities } from "../places";
import { told, without, type PartProps } from "./parts";
import { now } from "@/clock";

export function PagePart({ visit, setVisit, close }: PartProps) {
  const { pages } = useDesk();
  return (
    <Autocomplete
      openOnFocus
      disableClearable
      options={pages}
      value={pages.find((page) => page.path === pathOf(visit)) as (typeof pages)[number]}
      getOptionLabel={(page: (typeof pages)[number]) => page.title}
      renderOption={({ key, ...rest }, page: (typeof pages)[number]) => (
        <li key={page.path} {...rest} data-key={key}>
          <span style={{ flex: 1 }}>{page.title}</span>
          <span className="quiet" style={{ fontFamily: "var(--code)" }}>
            {page.path}
          </span>
        </li>
      )}
      onChange={(_, page: (typeof pages)[number]) => {
        const next = new URL(visit.url);
        next.pathname = page.path;
        setVisit({ ...visit, url: next.href });
        close();
      }}
      renderInput={(input) => <TextField {...input} label={t("Page")} autoFocus />}
    />
  );
}

/** Then another page: goes on to it as a click on a link would. */
export function NextPart({ close }: PartProps) {
  const { pages } = useDesk();
  const { walk } = useSite();
  const [after, setAfter] = useState(1);
  return (
    <div className="stack">
      <Autocomplete
        openOnFocus
        options={pages}
        value={null}
        getOptionLabel={(page: (typeof pages)[number]) => page.title}
        onChange={(_, page: (typeof pages)[number] | null) => {
          if (page) walk(page.path, after);
          close();
        }}
        renderInput={(input) => <TextField {...input} label={t("Then the page")} autoFocus />}
      />
      <Field
        label={t("Minutes later")}
        value={String(after)}
        problem={(text) => (/^\d{1,6}$/.test(text) ? undefined : t("A whole number of minutes"))}
        onCommit={(text) => setAfter(Number(text))}
      />
      <span className="quiet">
        {t(
          "As by a link on the page: history, markers and where the visitor comes from move on. Links in the page below do the same.",
        )}
      </span>
    </div>
  );
}

export function DevicePart({ visit, setVisit }: PartProps) {
  const { setWidth } = useDesk();
  const read = readDevice(visit.userAgent, visit.hints);
  const width = visit.hints?.width;
  return (
    <div className="stack">
      <Autocomplete
        openOnFocus
        options={presets}
        value={presets.find((preset) => preset.userAgent === visit.userAgent) ?? null}
        getOptionLabel={(preset) => preset.name}
        onChange={(_, preset) => {
          setVisit(preset ? withDevice(visit, preset) : without(visit, "userAgent", "hints"));
          if (preset) setWidth(preset.width);
        }}
        renderInput={(input) => <TextField {...input} label={t("Device")} autoFocus />}
      />
      <Field
        label="User-Agent"
        multiline
        maxRows={5}
        value={visit.userAgent ?? ""}
        onCommit={(text) =>
          setVisit(text ? { ...without(visit, "hints"), userAgent: text } : without(visit, "userAgent", "hints"))
        }
      />
      <Field
        label={t("Window width, CSS pixels")}
        placeholder={t("not told")}
        value={width === undefined ? "" : String(width)}
        problem={(text) => (text === "" || /^\d{2,5}$/.test(text) ? undefined : t("Give a whole number such as 390"))}
        onCommit={(text) => {
          const { width: _width, ...hints } = visit.hints ?? {};
          const next = text === "" ? hints : { ...hints, width: Number(text) };
          setVisit(told(visit, "hints", Object.keys(next).length === 0 ? undefined : next));
        }}
      />
      <span className="quiet">
        {read
          ? t("Read as {value}", {
              value: [read.kind, read.os, read.browser && `${read.browser} ${read.version ?? ""}`]
                .filter(Boolean)
                .join(", "),
            })
          : t("Without a User-Agent the device is unknown.")}
      </span>
    </div>
  );
}

type Choice = NonNullable<Visit["place"]>;
const placeName = (place: Choice): string => [place.city, countryName(place.country ?? "")].filter(Boolean).join(", ");
const placeChoices: Choice[] = [...cities, ...countryCodes.map((country) => ({ country }))];

export function PlacePart({ visit, setVisit, close }: PartProps) {
  const { look } = useDesk();
  const { placed } = look;
  return (
    <div className="stack">
      <Autocomplete
        openOnFocus
        options={placeChoices}
        value={
          placeChoices.find((place) => place.country === visit.place?.country && place.city === visit.place?.city) ??
          null
        }
        getOptionLabel={placeName}
        isOptionEqualToValue={(a, b) => a.country === b.country && a.city === b.city}
        onChange={(_, place) => {
          setVisit(told(without(visit, "zone"), "place", place ? { ...place } : undefined));
          if (place) close();
        }}
        renderInput={(input) => <TextField {...input} label={t("City or country")} autoFocus />}
      />
      <Field
        label={t("Or found by this address")}
        placeholder={t("203.0.113.24 or 2001:db8::1")}
        value={visit.ip ?? ""}
        problem={(text) => (text === "" || parseAddress(text) ? undefined : t("This is no IPv4 or IPv6 address"))}
        onCommit={(text) => setVisit(told(text ? without(visit, "place") : visit, "ip", text || undefined))}
      />
      <span className="quiet">
        {visit.place
          ? [visit.place.country, visit.place.region, visit.place.zone].filter(Boolean).join(" · ")
          : visit.ip
            ? placed
              ? t("Found: {value}", {
                  value: [placed.city, placed.country && countryName(placed.country), placed.region, placed.zone]
                    .filter(Boolean)
                    .join(" · "),
                })
              : t("The place data knows no place for this address: the place is unknown.")
            : t("Nothing chosen: the place is unknown, as when no place is found for an address.")}
      </span>
    </div>
  );
}

const commonLanguages = [
  "pt-PT,pt;q=0.9,en;q=0.5",
  "es-ES,es;q=0.9,en;q=0.5",
  "de-DE,de;q=0.9,en;q=0.6",
  "en-GB,en;q=0.9",
  "en-US,en;q=0.9",
  "fr-FR,fr;q=0.9,en;q=0.5",
];

export function LanguagePart({ visit, setVisit }: PartProps) {
  return (
    <Autocomplete
      freeSolo
      openOnFocus
      options={commonLanguages}
      value={visit.acceptLanguage ?? ""}
      onChange={(_, header) => setVisit(told(visit, "acceptLanguage", header || undefined))}
      renderInput={(input) => (
        <TextField
          {...input}
          label="Accept-Language"
          helperText={t("As browsers send it: languages with their weights")}
          autoFocus
        />
      )}
    />
  );
}

export function TimePart({ visit }: PartProps) {
  const { ruleset, look } = useDesk();
  const { zone } = ruleset.site;
  const at = parseInstant(visit.at) as number;
  const local = formatLocal(zoneOf(zone).toLocal(at));
  const move = (hours: number) => look.travel(at + hours * 3_600_000);
  return (
    <div className="stack">
      <DateField
        grain="minute"
        autoFocus
        label={t("Date and time, {zone}", { zone: zonePhrase(zone) })}
        value={local}
        delay={150}
        problem={(text) => (text === "" ? t("Choose a date and a time that exist") : undefined)}
        onCommit={(text) => look.travel(zoneOf(zone).toInstant(parseLocal(text) as number))}
      />
      <div className="row" style={{ flexWrap: "wrap" }}>
        <Button onClick={() => move(-24)}>{t("One day earlier")}</Button>
        <Button onClick={() => move(-1)}>{t("One hour earlier")}</Button>
        <Button onClick={() => move(1)}>{t("One hour later")}</Button>
        <Button onClick={() => move(24)}>{t("One day later")}</Button>
        <Button onClick={() => look.travel(now())}>{t("Now")}</Button>
      </div>
      <span className="quiet">{zone}</span>
    </div>
  );
}
