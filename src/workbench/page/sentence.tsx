"use client";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import Divider from "@mui/material/Divider";
import ListSubheader from "@mui/material/ListSubheader";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Popover from "@mui/material/Popover";
import TextField from "@mui/material/TextField";
import { ChevronDown } from "lucide-react";
import { useSnackbar } from "notistack";
import { useEffect, useState } from "react";
import type { Ruleset } from "@/core/formats/ruleset";
import { parseInstant, type Visit } from "@/core/formats/visit";
import { formatLocal, parseLocal } from "@/core/schedule/calendar";
import { zoneOf } from "@/core/schedule/zone";
import { zonePhrase } from "@/core/rules/phrases";
import { countryCodes, countryName } from "@/core/visit/countries";
import { readDevice } from "@/core/visit/device";
import { takePaste, visitPhrases } from "@/core/visit/phrases";
import type { Actions } from "../parts/actions";
import { presets, type Width } from "../parts/devices";
import { Field } from "../parts/field";
import { cities } from "../parts/places";
import { pathOf, type Look, type SitePage } from "./use-look";

export interface Lens {
  id: string;
  name: string;
  visit: Visit;
}
interface Props {
  look: Look;
  ruleset: Ruleset;
  pages: readonly SitePage[];
  lenses: readonly Lens[];
  lens: string | null;
  now: string;
  onLens: (lens: Lens) => void;
  onLenses: (lenses: Lens[]) => void;
  onWidth: (width: Width) => void;
  actions: Pick<Actions, "keepLens" | "dropLens">;
}

type Part = "page" | "device" | "place" | "language" | "arrival" | "link" | "time";

/** The lens written out: every underlined part opens a small editor in place. */
export function VisitSentence(props: Props) {
  const { look, ruleset, pages } = props;
  const [open, setOpen] = useState<{ part: Part; at: HTMLElement } | null>(null);
  const phrases = visitPhrases(look.visit, ruleset, new Map(pages.map((page) => [page.path, page.title])));
  const part = (name: Part) => (
    <button type="button" aria-haspopup="dialog" onClick={(event) => setOpen({ part: name, at: event.currentTarget })}>
      {phrases[name]}
    </button>
  );
  return (
    <section className="sentence" aria-label="The visit looked at">
      <LensPicker {...props} />
      <p>
        Looking at {part("page")} on {part("device")} in {part("place")}, reading {part("language")}, arriving{" "}
        {part("arrival")} by {part("link")} on {part("time")}.
      </p>
      <PasteField {...props} />
      <Popover
        open={open !== null}
        anchorEl={open?.at ?? null}
        onClose={() => setOpen(null)}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{ paper: { sx: { p: 4, width: 380, mt: 1 } } }}
      >
        {open && <Editor part={open.part} {...props} close={() => setOpen(null)} />}
      </Popover>
    </section>
  );
}

function Editor({ part, look, ruleset, pages, onWidth, now, close }: Props & { part: Part; close: () => void }) {
  const { visit, setVisit } = look;
  const url = new URL(visit.url);
  const setUrl = (change: (next: URL) => void) => {
    const next = new URL(visit.url);
    change(next);
    setVisit({ ...visit, url: next.href });
  };
  const without = <K extends keyof Visit>(...keys: K[]): Visit => {
    const copy = { ...visit };
    for (const key of keys) delete copy[key];
    return copy;
  };

  switch (part) {
    case "page":
      return (
        <Autocomplete
          openOnFocus
          disableClearable
          options={pages}
          value={pages.find((page) => page.path === pathOf(visit)) ?? (undefined as never)}
          getOptionLabel={(page) => page.title}
          renderOption={({ key, ...rest }, page) => (
            <li key={key} {...rest}>
              <span style={{ flex: 1 }}>{page.title}</span>
              <span className="quiet" style={{ fontFamily: "var(--code)" }}>
                {page.path}
              </span>
            </li>
          )}
          onChange={(_, page) => {
            setUrl((next) => {
              next.pathname = page.path;
            });
            close();
          }}
          renderInput={(input) => <TextField {...input} label="Page" autoFocus />}
        />
      );
    case "device": {
      const read = readDevice(visit.userAgent, visit.hints);
      return (
        <div className="stack">
          <Autocomplete
            openOnFocus
            options={presets}
            value={presets.find((preset) => preset.userAgent === visit.userAgent) ?? null}
            getOptionLabel={(preset) => preset.name}
            onChange={(_, preset) => {
              const base = without("userAgent", "hints");
              setVisit(
                preset
                  ? { ...base, userAgent: preset.userAgent, ...(preset.hints ? { hints: preset.hints } : {}) }
                  : base,
              );
              if (preset) onWidth(preset.width);
            }}
            renderInput={(input) => <TextField {...input} label="Device" autoFocus />}
          />
          <Field
            label="User-Agent"
            multiline
            maxRows={5}
            value={visit.userAgent ?? ""}
            onCommit={(text) =>
              setVisit(text ? { ...without("hints"), userAgent: text } : without("userAgent", "hints"))
            }
          />
          <span className="quiet">
            {read
              ? `Read as ${[read.kind, read.os, read.browser && `${read.browser} ${read.version ?? ""}`].filter(Boolean).join(", ")}`
              : "Without a User-Agent the device is unknown."}
          </span>
        </div>
      );
    }
    case "place": {
      const options = [
        ...cities,
        ...countryCodes.map((country) => ({ country, city: undefined }) as { country: string; city?: undefined }),
      ];
      const name = (place: { country?: string | undefined; city?: string | undefined }) =>
        [place.city, countryName(place.country ?? "")].filter(Boolean).join(", ");
      return (
        <div className="stack">
          <Autocomplete
            openOnFocus
            options={options}
            value={
              options.find((place) => place.country === visit.place?.country && place.city === visit.place?.city) ??
              null
            }
            getOptionLabel={name}
            isOptionEqualToValue={(a, b) => a.country === b.country && a.city === b.city}
            onChange={(_, place) => {
              setVisit(
                place
                  ? { ...without("zone"), place: JSON.parse(JSON.stringify(place)) as Visit["place"] }
                  : without("place", "zone"),
              );
              if (place) close();
            }}
            renderInput={(input) => <TextField {...input} label="City or country" autoFocus />}
          />
          <span className="quiet">
            {visit.place
              ? [visit.place.country, visit.place.region, visit.place.zone].filter(Boolean).join(" · ")
              : "Nothing chosen: the place is unknown, as when no place is found for an address."}
          </span>
        </div>
      );
    }
    case "language": {
      const common = [
        "pt-PT,pt;q=0.9,en;q=0.5",
        "es-ES,es;q=0.9,en;q=0.5",
        "de-DE,de;q=0.9,en;q=0.6",
        "en-GB,en;q=0.9",
        "en-US,en;q=0.9",
        "fr-FR,fr;q=0.9,en;q=0.5",
      ];
      return (
        <Autocomplete
          freeSolo
          openOnFocus
          options={common}
          value={visit.acceptLanguage ?? ""}
          onChange={(_, header) => setVisit(header ? { ...visit, acceptLanguage: header } : without("acceptLanguage"))}
          renderInput={(input) => (
            <TextField
              {...input}
              label="Accept-Language"
              helperText="As browsers send it: languages with their weights"
              autoFocus
            />
          )}
        />
      );
    }
    case "arrival":
      return (
        <ArrivalEditor
          visit={visit}
          ruleset={ruleset}
          onChange={(referrer) => setVisit(referrer ? { ...visit, referrer } : without("referrer"))}
        />
      );
    case "link": {
      const fields = [
        ["utm_source", "Source"],
        ["utm_medium", "Medium"],
        ["utm_campaign", "Campaign"],
        ["utm_term", "Term"],
        ["utm_content", "Content"],
      ] as const;
      return (
        <div className="stack">
          {fields.map(([name, label], index) => (
            <Field
              key={name}
              label={label}
              autoFocus={index === 0}
              value={url.searchParams.get(name) ?? ""}
              onCommit={(text) =>
                setUrl((next) => (text ? next.searchParams.set(name, text) : next.searchParams.delete(name)))
              }
            />
          ))}
          <Field
            label="The whole link"
            multiline
            maxRows={4}
            value={visit.url}
            problem={(text) =>
              /^https?:\/\/[^/]/.test(text) && URL.canParse(text)
                ? undefined
                : "This is no address: it must begin with https:// and a host"
            }
            onCommit={(text) => setVisit({ ...visit, url: text })}
          />
        </div>
      );
    }
    case "time":
      return (
        <TimeEditor visit={visit} zone={ruleset.site.zone} now={now} onChange={(at) => setVisit({ ...visit, at })} />
      );
  }
}

function ArrivalEditor({
  visit,
  ruleset,
  onChange,
}: {
  visit: Visit;
  ruleset: Ruleset;
  onChange: (referrer: string | undefined) => void;
}) {
  const source = ruleset.searchSources[0];
  const told = visit.referrer && URL.canParse(visit.referrer) ? new URL(visit.referrer) : undefined;
  const searched =
    source && told?.hostname.endsWith(source.host) ? (told.searchParams.get(source.parameter) ?? "") : "";
  return (
    <div className="stack">
      <Button onClick={() => onChange(undefined)} variant={visit.referrer ? "outlined" : "contained"} autoFocus>
        Directly: typed, bookmarked or without a referrer
      </Button>
      {source && (
        <Field
          label={`From a search on ${source.host}`}
          placeholder="shade fern"
          value={searched}
          onCommit={(words) =>
            onChange(
              words ? `https://${source.host}/search?${new URLSearchParams({ [source.parameter]: words })}` : undefined,
            )
          }
        />
      )}
      <Field
        label="From this page (referrer)"
        placeholder="https://stone-and-moss.example/article"
        value={visit.referrer ?? ""}
        problem={(text) =>
          text === "" || URL.canParse(text) ? undefined : "This is no address: write it with https:// before it"
        }
        onCommit={(text) => onChange(text || undefined)}
      />
    </div>
  );
}

function TimeEditor({
  visit,
  zone,
  now,
  onChange,
}: {
  visit: Visit;
  zone: string;
  now: string;
  onChange: (at: string) => void;
}) {
  const at = parseInstant(visit.at) as number;
  const local = formatLocal(zoneOf(zone).toLocal(at));
  const move = (hours: number) => onChange(new Date(at + hours * 3_600_000).toISOString());
  return (
    <div className="stack">
      <Field
        type="datetime-local"
        autoFocus
        label={`Date and time, ${zonePhrase(zone)}`}
        value={local}
        delay={150}
        slotProps={{ inputLabel: { shrink: true } }}
        problem={(text) =>
          parseLocal(text.slice(0, 16)) === undefined ? "Choose a date and a time that exist" : undefined
        }
        onCommit={(text) =>
          onChange(new Date(zoneOf(zone).toInstant(parseLocal(text.slice(0, 16)) as number)).toISOString())
        }
      />
      <div className="row" style={{ flexWrap: "wrap" }}>
        <Button onClick={() => move(-24)}>One day back</Button>
        <Button onClick={() => move(-1)}>One hour back</Button>
        <Button onClick={() => move(1)}>One hour on</Button>
        <Button onClick={() => move(24)}>One day on</Button>
        <Button onClick={() => onChange(now)}>Now</Button>
      </div>
      <span className="quiet">{zone}</span>
    </div>
  );
}

function LensPicker({ look, lenses, lens, onLens, onLenses, ruleset, actions }: Props) {
  const [at, setAt] = useState<HTMLElement | null>(null);
  const [name, setName] = useState("");
  const { enqueueSnackbar } = useSnackbar();
  const site = ruleset.site.id;
  const current = lenses.find((item) => item.id === lens);
  const keep = async () => {
    const wanted = name.trim();
    if (wanted === "") return;
    const kept = { id: `lens-${Date.now().toString(36)}`, name: wanted, visit: { ...look.visit, page: undefined } };
    onLenses(await actions.keepLens(site, kept));
    onLens(kept);
    setName("");
    setAt(null);
    enqueueSnackbar(`Kept as the lens “${wanted}”`);
  };
  return (
    <>
      <Button
        color="secondary"
        endIcon={<ChevronDown size={14} />}
        onClick={(event) => setAt(event.currentTarget)}
        sx={{ whiteSpace: "nowrap", flex: "none" }}
      >
        Lens: {current?.name ?? "your own"}
      </Button>
      <Menu open={at !== null} anchorEl={at} onClose={() => setAt(null)} slotProps={{ paper: { sx: { width: 320 } } }}>
        <ListSubheader sx={{ lineHeight: "28px" }}>Look through</ListSubheader>
        {lenses.map((item) => (
          <MenuItem
            key={item.id}
            selected={item.id === lens}
            onClick={() => {
              onLens(item);
              setAt(null);
            }}
          >
            {item.name}
          </MenuItem>
        ))}
        <Divider />
        <li style={{ padding: "8px 14px" }} onKeyDown={(event) => event.stopPropagation()}>
          <form
            className="row"
            onSubmit={(event) => {
              event.preventDefault();
              void keep();
            }}
          >
            <TextField
              label="Keep this lens as"
              value={name}
              onChange={(event) => setName(event.target.value)}
              slotProps={{ htmlInput: { maxLength: 80 } }}
            />
            <Button type="submit" variant="contained" disabled={name.trim() === ""}>
              Keep
            </Button>
          </form>
        </li>
        {current && (
          <MenuItem
            onClick={async () => {
              setAt(null);
              onLenses(await actions.dropLens(site, current.id));
              enqueueSnackbar(`The lens “${current.name}” is deleted`, {
                action: <Button onClick={() => void actions.keepLens(site, current).then(onLenses)}>Bring back</Button>,
              });
            }}
          >
            Delete “{current.name}”
          </MenuItem>
        )}
      </Menu>
    </>
  );
}

function PasteField({ look, ruleset, onWidth }: Props) {
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string>();
  const { enqueueSnackbar } = useSnackbar();
  const take = (pasted: string): boolean => {
    const taken = takePaste(pasted, look.visit, ruleset.site.origin);
    if ("problem" in taken) {
      setProblem(taken.problem);
      return false;
    }
    look.setVisit(taken.visit);
    const kind = readDevice(taken.visit.userAgent, taken.visit.hints)?.kind;
    if (taken.as === "the device") onWidth(kind === "phone" || kind === "tablet" ? kind : "desktop");
    setProblem(undefined);
    setText("");
    enqueueSnackbar(`Taken as ${taken.as}`);
    return true;
  };
  // Pasting anywhere on the screen works too, as long as no field is being filled in.
  useEffect(() => {
    const paste = (event: ClipboardEvent) => {
      const target = event.target as HTMLElement;
      const pasted = event.clipboardData?.getData("text/plain") ?? "";
      if (target.closest("input, textarea, [contenteditable]") || pasted.trim() === "") return;
      setText(pasted);
      take(pasted);
    };
    document.addEventListener("paste", paste);
    return () => document.removeEventListener("paste", paste);
  });
  return (
    <form
      className="paste"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim() !== "") take(text);
      }}
    >
      <TextField
        placeholder="Paste a link or a referrer"
        aria-label="Paste a link, a referrer, a User-Agent or an Accept-Language"
        value={text}
        error={problem !== undefined}
        helperText={problem}
        onChange={(event) => {
          setText(event.target.value);
          setProblem(undefined);
        }}
        onPaste={(event) => {
          const pasted = event.clipboardData.getData("text/plain");
          if (take(pasted)) event.preventDefault();
        }}
        slotProps={{ htmlInput: { "aria-label": "Paste a link, a referrer, a User-Agent or an Accept-Language" } }}
      />
    </form>
  );
}
