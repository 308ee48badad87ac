"use client";
import { said, t, text } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { useState } from "react";
import { formatsFor, tokenFormat, tokenName, tokenSource, type TokenFormat } from "@/core/content/message";
import type { Content, Ruleset } from "@/core/formats/ruleset";
import { freeSignals, namesInUse, signalChoices } from "@/core/ruleset/choices";
import { signalInfo } from "@/core/visit/signals";
import { SignalSelect } from "../signal-select";

export interface MadeToken {
  name: string;
  source: string;
  token: Content["tokens"][string];
}
interface Props {
  content: Content;
  ruleset: Ruleset;
  /** The token that is changed; undefined for a new one. */
  token?: { name: string; source: string } | undefined;
  onDone: (made: MadeToken) => void;
  onRemove?: (() => void) | undefined;
}

const formatWords: Record<TokenFormat["as"], string> = said({
  text: text("as it is"),
  amount: text("as an amount of money"),
  number: text("as a number"),
  percent: text("as a percentage"),
  count: text("as a count with a word"),
  date: text("as a date"),
});

/** Asks what a token stands for, how it is written out, and what is shown to a visitor of whom it is not known. */
export function TokenForm({ content, ruleset, token, onDone, onRemove }: Props) {
  const known = token && Object.hasOwn(content.tokens, token.name) ? content.tokens[token.name] : undefined;
  const before = token && tokenFormat(token.name, token.source);
  const count = before?.as === "count" ? before : { one: t("one item"), other: "# items" };
  const [signal, setSignal] = useState(known?.signal ?? "");
  const [as, setAs] = useState<TokenFormat["as"] | undefined>(before?.as);
  const [one, setOne] = useState(count.one);
  const [other, setOther] = useState(count.other);
  const [fallback, setFallback] = useState(known?.fallback ?? "");
  const [without, setWithout] = useState<"text" | "fallback">(
    known && known.fallback === undefined ? "fallback" : "text",
  );

  const choices = signalChoices(ruleset, (name) => signalInfo(name, ruleset)?.kind === "schedule");
  const named = freeSignals().find((item) => signal.startsWith(item.signal));
  const chosen = choices.find((choice) => choice.signal === (named?.signal ?? signal)) ?? null;
  const nameless = named !== undefined && signal === named.signal;
  const info = nameless ? undefined : signalInfo(signal, ruleset);
  const formats = info ? formatsFor(info.kind) : [];
  const format = as && formats.includes(as) ? as : formats[0];
  const ready = info !== undefined && format !== undefined && (without === "fallback" || fallback !== "");

  const done = () => {
    if (!ready) return;
    const name = token && known?.signal === signal ? token.name : tokenName(signal, content);
    const currency = ruleset.site.currency;
    const made: TokenFormat =
      format === "amount"
        ? { as: "amount", currency }
        : format === "count"
          ? { as: "count", one, other }
          : format === "date"
            ? { as: "date", style: before?.as === "date" ? before.style : "long" }
            : { as: format };
    onDone({
      name,
      source: tokenSource(name, made),
      token: { signal, ...(without === "text" ? { fallback } : {}) },
    });
  };
  return (
    <form
      className="stack"
      aria-label={t("A value of the visit")}
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        done();
      }}
    >
      <SignalSelect
        choices={choices}
        chosen={chosen}
        onChoose={setSignal}
        label={t("Value to insert")}
        autoFocus={!token}
      />
      {named && (
        <Autocomplete
          freeSolo
          autoSelect
          openOnFocus
          options={namesInUse(named.signal, ruleset)}
          value={signal.slice(named.signal.length)}
          onInputChange={(_, name) => setSignal(`${named.signal}${name.trim()}`)}
          renderInput={(input) => (
            <TextField {...input} label={named.what} helperText={nameless ? named.example : undefined} />
          )}
        />
      )}
      {formats.length > 1 && (
        <TextField
          select
          label={t("Written")}
          value={format}
          onChange={(event) => setAs(event.target.value as TokenFormat["as"])}
        >
          {formats.map((item) => (
            <MenuItem key={item} value={item}>
              {formatWords[item]}
            </MenuItem>
          ))}
        </TextField>
      )}
      {format === "count" && (
        <div className="row">
          <TextField label={t("For one")} value={one} onChange={(event) => setOne(event.target.value)} />
          <TextField
            label={t("For others")}
            value={other}
            helperText="# is the number"
            onChange={(event) => setOther(event.target.value)}
          />
        </div>
      )}
      {info && (
        <>
          <TextField
            select
            label={t("If missing")}
            value={without}
            onChange={(event) => setWithout(event.target.value as "text" | "fallback")}
          >
            <MenuItem value="text">{t("show this instead")}</MenuItem>
            <MenuItem value="fallback">{t("take this field’s text from the slot’s fallback")}</MenuItem>
          </TextField>
          {without === "text" && (
            <TextField
              label={t("Shown instead")}
              placeholder={t("there")}
              value={fallback}
              autoFocus={!token && !named}
              onChange={(event) => setFallback(event.target.value)}
            />
          )}
        </>
      )}
      {token && !before && (
        <span className="unsure">
          {t("This one was written by hand in a way of its own. Changing it here writes it anew.")}
        </span>
      )}
      <div className="row">
        <Button type="submit" variant="contained" disabled={!ready}>
          {token ? t("Update") : t("Insert")}
        </Button>
        {onRemove && (
          <Button color="error" onClick={onRemove}>
            {t("Remove")}
          </Button>
        )}
      </div>
    </form>
  );
}
