"use client";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import { X } from "lucide-react";
import { useState } from "react";
import { cartAbout, cartFromCode } from "@/core/cart/about";
import { formatMoney, toMinor } from "@/core/money/currency";
import type { CartLine } from "@/core/formats/visit";
import { useDesk, useNeeded } from "../desk/desk";
import { Field } from "../field";
import { told, type PartProps } from "./parts";

/** What is in the cart: by search, by amount ("about €40"), empty, or not told at all. */
export function CartPart({ visit, setVisit, focus = true }: Omit<PartProps, "close"> & { focus?: boolean }) {
  useNeeded("products");
  const { ruleset, products, look } = useDesk();
  const { currency, language } = ruleset.site;
  const [about, setAbout] = useState("");
  const lines = visit.cart?.lines ?? [];
  const set = (next: CartLine[]) => setVisit({ ...visit, cart: { ...visit.cart, lines: next } });
  const money = (minor: number) => formatMoney(minor, currency, language);
  const wanted = toMinor(about.trim(), currency);
  const bill = look.decision.cart;
  return (
    <div className="stack">
      <Autocomplete
        openOnFocus
        blurOnSelect
        options={products}
        value={null}
        getOptionLabel={(item: (typeof products)[number]) => `${item.name}, ${item.category}`}
        renderOption={({ key, ...rest }, item: (typeof products)[number]) => (
          <li key={item.sku} {...rest} data-key={key}>
            <span style={{ flex: 1 }}>{item.name}</span>
            <span className="quiet">{money(item.unitPrice)}</span>
          </li>
        )}
        onChange={(_, item: (typeof products)[number] | null) => {
          if (!item) return;
          const there = lines.find((line) => line.sku === item.sku);
          set(
            there
              ? lines.map((line) => (line === there ? { ...line, quantity: line.quantity + 1 } : line))
              : [...lines, { sku: item.sku, category: item.category, quantity: 1, unitPrice: item.unitPrice }],
          );
        }}
        renderInput={(input) => (
          <TextField {...input} label={t("Add to cart")} placeholder={t("Search by name")} autoFocus={focus} />
        )}
      />
      {lines.length > 0 && (
        <table className="lines">
          <tbody>
            {lines.map((line, index) => (
              <tr key={line.sku}>
                <td>{products.find((item) => item.sku === line.sku)?.name ?? line.sku}</td>
                <td style={{ width: 64 }}>
                  <Field
                    value={String(line.quantity)}
                    problem={(text) => (/^\d{1,4}$/.test(text) && Number(text) > 0 ? undefined : t("From 1 to 9999"))}
                    onCommit={(text) =>
                      set(lines.map((item, i) => (i === index ? { ...item, quantity: Number(text) } : item)))
                    }
                    slotProps={{
                      htmlInput: { "aria-label": t("How many of {sku}", { sku: line.sku }), inputMode: "numeric" },
                    }}
                  />
                </td>
                <td className="amount">{money(line.quantity * line.unitPrice)}</td>
                <td style={{ width: 28 }}>
                  <IconButton
                    aria-label={t("Take out {sku}", { sku: line.sku })}
                    onClick={() => set(lines.filter((_, i) => i !== index))}
                  >
                    <X size={14} />
                  </IconButton>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <form
        className="row"
        onSubmit={(event) => {
          event.preventDefault();
          if (wanted !== undefined) set(cartAbout(wanted, products));
        }}
      >
        <TextField
          label={t("About this much, in {currency}", { currency })}
          placeholder="40"
          value={about}
          error={about !== "" && wanted === undefined}
          helperText={about !== "" && wanted === undefined ? t("Give an amount such as 40 or 38.50") : undefined}
          onChange={(event) => setAbout(event.target.value)}
        />
        <Button type="submit" disabled={wanted === undefined}>
          {t("Fill")}
        </Button>
      </form>
      <Field
        label={t("Or a real cart, by its code")}
        placeholder="fern-01~2.tool-01~1"
        helperText={t("The shop shows it under the cart")}
        value=""
        problem={(text) =>
          text === "" || cartFromCode(text, products) ? undefined : t("Nothing in this code is sold on this site")
        }
        onCommit={(text) => {
          const taken = cartFromCode(text, products);
          if (taken) set(taken);
        }}
      />
      <div className="row">
        <Button onClick={() => set([])} disabled={visit.cart !== undefined && lines.length === 0}>
          {t("Empty cart")}
        </Button>
        <Button onClick={() => setVisit(told(visit, "cart", undefined))} disabled={!visit.cart}>
          {t("Cart unknown")}
        </Button>
      </div>
      <span className="quiet">
        {!visit.cart
          ? t("Cart signals are unknown.")
          : bill
            ? t("Subtotal {subtotal}, total after offers {total}", {
                subtotal: money(bill.subtotal),
                total: money(bill.total),
              })
            : t("A cart in {currency}: its money is unknown to rules.", {
                currency: visit.cart.currency ?? t("another currency"),
              })}
      </span>
    </div>
  );
}
