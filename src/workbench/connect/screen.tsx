"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import MenuItem from "@mui/material/MenuItem";
import { Copy, Trash2 } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import * as z from "zod";
import { nowText } from "@/clock";
import { originProblem } from "@/core/formats/origin";
import type { ServedBy } from "@/server/types";
import { whyNot } from "../parts/actions";
import { useAsked } from "../parts/asked";
import { useDesk } from "../parts/desk/desk";
import { Field } from "../parts/field";
import { Form } from "../parts/form/form";
import { FormText } from "../parts/form/form-text";
import { saying, useForm } from "../parts/form/use-form";
import { timeWords } from "../parts/times";
import { AddLine } from "../settings/add-line";
import { Section } from "../settings/section";
import { Steps } from "./steps";
import { TagCode } from "./tag-code";

/** How pages of any server get their slots filled: by one tag, by the interface, or in the same process. And the keys for it. */
export function ConnectScreen() {
  const { actions, lookedBy, may, ruleset } = useDesk();
  const { enqueueSnackbar } = useSnackbar();
  const { value: served, set: setServed } = useAsked("servedBy", []);
  const builds = may("build");
  const keys = served?.keys.filter((key) => !key.endedAt) ?? [];
  const open = keys.find((key) => key.kind === "public");
  const server = served?.delivery ?? "";
  if (!served) return <main className="settings" />;
  const copy = (text: string, what: string) =>
    void navigator.clipboard.writeText(text).then(() => enqueueSnackbar(t("{what} is copied", { what })));
  const set = async (ask: () => Promise<string | undefined>, next: Partial<ServedBy>) => {
    const wrong = await ask().catch(whyNot);
    if (!wrong) setServed({ ...served, ...next });
    return wrong;
  };
  const keep = async (kind: "public" | "secret", name: string) => {
    const { key, keys: left } = await actions.makeKey(kind, name);
    setServed({ ...served, keys: left });
    return kind === "secret" ? key : undefined;
  };
  const allow = (origins: string[]) => set(() => actions.allowOrigins(origins), { origins });
  const tag = open?.key ? (
    <TagCode server={server} publicKey={open.key} slot={ruleset.slots.find(({ at }) => !at)?.id} />
  ) : (
    <div className="row">
      {builds ? (
        <Button
          variant="contained"
          onClick={() =>
            void keep("public", t("The tag")).catch((error: unknown) =>
              enqueueSnackbar(whyNot(error), { variant: "error" }),
            )
          }
        >
          {t("Create tag")}
        </Button>
      ) : (
        <span className="quiet">{t("A developer of the site makes it, here.")}</span>
      )}
    </div>
  );
  const at = nowText().replace(/\.\d+Z$/, "Z");
  const curl = t(
    'curl {server}/v1/decide \\\n  -H \'Authorization: Bearer server_…\' -H \'Content-Type: application/json\' \\\n  -d \'{"visit":{"at":"{at}","url":"{origin}/"}}\'',
    { server, at, origin: ruleset.site.origin },
  );
  return (
    <main className="settings">
      <h1>{t("Connect")}</h1>
      {lookedBy === "tag" ? (
        <Steps tag={tag} allowOrigin={builds ? (origin) => allow([...served.origins, origin]) : undefined} />
      ) : (
        <Section
          title={t("Page tag")}
          says={t(
            "For static and cached pages. Put the tag in the head, and mark each slot with data-mirada-slot. Should no answer come within 400 ms, the page’s own content stands.",
          )}
        >
          {tag}
        </Section>
      )}
      <Section
        title="HTTP API"
        says={t(
          "For pages that a server makes. It asks for each visit, or fetches the live ruleset and decides by itself.",
        )}
      >
        <pre className="code">{curl}</pre>
        <div className="row">
          <Button startIcon={<Copy size={14} />} onClick={() => copy(curl, t("The request"))}>
            {t("Copy")}
          </Button>
          <Button href={`${server}/openapi.json`} target="_blank" rel="noreferrer">
            {t("Description (OpenAPI 3.1)")}
          </Button>
        </div>
      </Section>
      <Section
        title={t("In process")}
        says={t(
          "For a site that is an application of its own beside Mirada: its pages call the same code, and nothing goes over the network.",
        )}
      >
        <span className="quiet">
          {rich("{code} shows all three, step by step.", { code: <code>docs/connect.md</code> })}
        </span>
      </Section>
      <Section
        title={t("Keys")}
        says={t(
          "A public key stands in pages, and is good from the origins below. A secret one belongs to a server; it is shown once.",
        )}
      >
        {keys.length === 0 && <span className="quiet">{t("No key yet.")}</span>}
        {keys.map((key) => (
          <div key={key.id} className="row line">
            <span style={{ flex: 1 }}>
              <b>{key.name}</b>, {key.kind}
              <br />
              <code style={{ overflowWrap: "anywhere" }}>
                {key.key ?? t("server_… (shown once, when it was made)")}
              </code>
              <span className="quiet">
                {t(", since {timeWords}", { timeWords: timeWords(key.madeAt, ruleset.site.zone) })}
              </span>
            </span>
            {builds && (
              <IconButton
                aria-label={t("End the key {key}", { key: key.name })}
                onClick={() =>
                  void actions.endKey(key.id).then(
                    (left) => setServed({ ...served, keys: left }),
                    (error: unknown) => enqueueSnackbar(whyNot(error), { variant: "error" }),
                  )
                }
              >
                <Trash2 size={14} />
              </IconButton>
            )}
          </div>
        ))}
        {builds && <NewKey make={keep} />}
      </Section>
      <Section
        title={t("Origins")}
        says={t(
          "Whose pages may ask by script. An origin is scheme, host and port, as the browser’s address shows them.",
        )}
      >
        {served.origins.map((origin) => (
          <div key={origin} className="row line">
            <code style={{ flex: 1 }}>{origin}</code>
            {builds && (
              <IconButton
                aria-label={t("Remove {origin}", { origin })}
                onClick={() => void allow(served.origins.filter((item) => item !== origin))}
              >
                <Trash2 size={14} />
              </IconButton>
            )}
          </div>
        ))}
        {builds && (
          <AddLine
            label={t("Another origin")}
            placeholder="https://partner.example"
            problem={(text) => (served.origins.includes(text) ? t("It is in the list already") : originProblem(text))}
            onAdd={(text) => allow([...served.origins, text])}
          />
        )}
      </Section>
      <Section
        title={t("Events")}
        says={t(
          "What was seen, clicked and reached, never by whom. One by one they are kept for so many days; their hourly sums stay.",
        )}
      >
        <Field
          label={t("Days")}
          value={String(served.eventDays)}
          disabled={!builds}
          sx={{ width: 120 }}
          problem={(text) =>
            /^\d{1,3}$/.test(text) && Number(text) >= 1 && Number(text) <= 400 ? undefined : t("From 1 to 400 days")
          }
          onCommit={(text) =>
            void set(() => actions.keepEventsFor(Number(text)).then(() => undefined), { eventDays: Number(text) })
          }
        />
      </Section>
      {!builds && <p className="quiet">{t("A developer changes what stands here.")}</p>}
    </main>
  );
}

const keyShape = z.object({ name: saying(() => t("Say what it is for")), kind: z.enum(["public", "secret"]) });

/** @param props.make makes a key; a secret one is answered, since it is shown once */
function NewKey({ make }: { make: (kind: "public" | "secret", name: string) => Promise<string | undefined> }) {
  const form = useForm(keyShape, { name: "", kind: "public" });
  const { control, reset, setError } = form;
  const [made, setMade] = useState<string>();
  return (
    <Form
      className="stack"
      form={form}
      onSend={({ name, kind }) =>
        make(kind, name).then(
          (key) => {
            setMade(key);
            reset({ name: "", kind });
          },
          (error: unknown) => setError("name", { message: whyNot(error) }),
        )
      }
    >
      <div className="row" style={{ alignItems: "flex-start" }}>
        <FormText
          control={control}
          name="name"
          label={t("What the key is for")}
          slotProps={{ htmlInput: { maxLength: 80 } }}
        />
        <FormText control={control} name="kind" select label={t("Kind")} sx={{ width: 130 }}>
          <MenuItem value="public">{t("public")}</MenuItem>
          <MenuItem value="secret">{t("secret")}</MenuItem>
        </FormText>
        <Button type="submit" sx={{ py: 1.5, whiteSpace: "nowrap" }}>
          {t("Create key")}
        </Button>
      </div>
      {made && (
        <div role="status">
          {rich("Keep it now, it is not shown again: {made}", {
            made: <code style={{ overflowWrap: "anywhere" }}>{made}</code>,
          })}
        </div>
      )}
    </Form>
  );
}
