"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import { Trash2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { useRef, useState } from "react";
import * as z from "zod";
import { parseBlock } from "@/core/visit/address";
import { countryName } from "@/core/visit/countries";
import type { ServedBy } from "@/server/types";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { siteBase } from "../parts/desk/site-address";
import { Form } from "../parts/form/form";
import { FormText } from "../parts/form/form-text";
import { saying, useForm } from "../parts/form/use-form";
import { AddLine } from "./add-line";
import { Section } from "./section";

const addressShape = z.object({ address: saying(() => t("Say which address")) });

/** Place data and trusted proxies: they hold at once, and belong to no release. */
export function Delivery() {
  const { value: served, set: setServed } = useAsked("servedBy", []);
  if (!served) return null;
  return (
    <>
      <PlaceData served={served} onChange={setServed} />
      <Proxies served={served} onChange={setServed} />
    </>
  );
}

interface PartProps {
  served: ServedBy;
  onChange: (served: ServedBy) => void;
}

function PlaceData({ served, onChange }: PartProps) {
  const { actions, site } = useDesk();
  const input = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<string>();
  const [busy, setBusy] = useState(false);
  const form = useForm(addressShape, { address: "" });
  const { control } = form;
  const [found, setFound] = useState<string>();
  const { enqueueSnackbar } = useSnackbar();
  const send = async (file: File | undefined) => {
    if (!file) return;
    setBusy(true);
    setProblem(undefined);
    const query = new URLSearchParams({ name: file.name });
    const answer = await fetch(`${siteBase(site)}/place-files?${query}`, { method: "POST", body: file })
      .then(
        (response) =>
          response.json() as Promise<{ ok: boolean; problem?: string; files?: ServedBy["placeFiles"]; says?: string }>,
      )
      .catch(() => ({ ok: false, problem: t("The server could not be reached. Nothing was changed.") }));
    setBusy(false);
    if (input.current) input.current.value = "";
    if (!answer.ok || !("files" in answer) || !answer.files) return setProblem(answer.problem);
    onChange({ ...served, placeFiles: answer.files });
    enqueueSnackbar(t("{file}: {says}, in use at once", { file: file.name, says: answer.says }));
  };
  const ask = async (address: string) => {
    const place = await actions.placeOf(address);
    setFound(
      place?.country
        ? [place.city, countryName(place.country), place.region, place.zone].filter(Boolean).join(" · ")
        : t("No place is known for this address."),
    );
  };
  return (
    <Section
      title={t("Place data")}
      says={t(
        "From which address a visitor is where. Your own files are asked first, in this order; then the countries that ship with the product (an open data set, CC0). Holds at once, also for what is live.",
      )}
    >
      {served.placeFiles.map((file) => (
        <div key={file.id} className="row line">
          <b>{file.name}</b>
          <span className="quiet" style={{ flex: 1 }}>
            {t("{says}, added {addedAt}", { says: file.says, addedAt: file.addedAt.slice(0, 10) })}
          </span>
          <IconButton
            aria-label={t("Remove {file}", { file: file.name })}
            onClick={async () => {
              await actions.dropPlaceFile(file.id);
              onChange({ ...served, placeFiles: served.placeFiles.filter((item) => item.id !== file.id) });
            }}
          >
            <Trash2 size={14} />
          </IconButton>
        </div>
      ))}
      <div className="row line">
        <b>{t("Countries")}</b>
        <span className="quiet">{t("ships with the product, always asked last")}</span>
      </div>
      <div className="row">
        <Button component="label" disabled={busy}>
          {busy ? t("Reading …") : t("Add a file (MMDB or CSV)")}
          <input
            ref={input}
            type="file"
            accept=".mmdb,.csv,text/csv"
            hidden
            aria-label={t("File of place data")}
            onChange={(event) => void send(event.target.files?.[0])}
          />
        </Button>
        <span className="quiet">{t("CSV: network, country, region, city, zone, lat, lon")}</span>
      </div>
      {problem && (
        <span className="error" role="alert">
          {problem}
        </span>
      )}
      <Form className="row" style={{ alignItems: "flex-start" }} form={form} onSend={({ address }) => ask(address)}>
        <FormText control={control} name="address" label={t("Try an address")} placeholder="203.0.113.24" />
        <Button type="submit" sx={{ py: 1.5 }}>
          {t("Look up")}
        </Button>
      </Form>
      {found && <span role="status">{found}</span>}
    </Section>
  );
}

function Proxies({ served, onChange }: PartProps) {
  const { actions } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const save = async (next: string[]) => {
    const wrong = await actions
      .trustProxies(next)
      .catch(() => t("The server could not be reached. Nothing was changed."));
    if (!wrong) onChange({ ...served, trustedProxies: next });
    return wrong;
  };
  return (
    <Section
      title={t("Trusted proxies")}
      says={t(
        "Behind a proxy every visitor seems to come from its address. Name the proxy, and only then is the address that it passes on (X-Forwarded-For) believed.",
      )}
    >
      {served.trustedProxies.length === 0 && (
        <span className="quiet">{t("None: the address of the connection counts.")}</span>
      )}
      {served.trustedProxies.map((proxy) => (
        <div key={proxy} className="row line">
          <code style={{ flex: 1 }}>{proxy}</code>
          <IconButton
            aria-label={t("Trust {proxy} no longer", { proxy })}
            onClick={() =>
              void save(served.trustedProxies.filter((item) => item !== proxy)).then(
                (wrong) => wrong && enqueueSnackbar(wrong, { variant: "error" }),
              )
            }
          >
            <Trash2 size={14} />
          </IconButton>
        </div>
      ))}
      <AddLine
        label={t("Address or block of a proxy")}
        placeholder={t("192.0.2.10 or 10.0.0.0/8")}
        button={t("Trust it")}
        problem={(text) => {
          const block = parseBlock(text);
          return "problem" in block ? `It ${block.problem}` : undefined;
        }}
        onAdd={(text) => save([...new Set([...served.trustedProxies, text])])}
      />
    </Section>
  );
}
