"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import Button from "@mui/material/Button";
import { Copy } from "lucide-react";
import { useSnackbar } from "notistack";
import { useEffect, useState } from "react";
import { pageTag, tagCode } from "@/script/tag";

interface Props {
  /** The address of the delivery server. */
  server: string;
  publicKey: string;
  /** A slot that pages mark by themselves, if there is one. */
  slot: string | undefined;
}

/** The tag, to be copied into pages, with what a strict policy has to let in. */
export function TagCode({ server, publicKey, slot }: Props) {
  const { enqueueSnackbar } = useSnackbar();
  const [hash, setHash] = useState("");
  const code = tagCode(server, publicKey);
  useEffect(() => {
    void crypto.subtle
      ?.digest("SHA-256", new TextEncoder().encode(code.replaceAll("</", "<\\/")))
      .then((bytes) => setHash(btoa(String.fromCharCode(...new Uint8Array(bytes)))));
  }, [code]);
  const tag = pageTag(server, publicKey);
  return (
    <>
      <pre className="code wrapped">{tag}</pre>
      <div className="row">
        <Button
          variant="contained"
          startIcon={<Copy size={14} />}
          style={{ whiteSpace: "nowrap" }}
          onClick={() => void navigator.clipboard.writeText(tag).then(() => enqueueSnackbar(t("The tag is copied")))}
        >
          {t("Copy tag")}
        </Button>
        <details className="quiet">
          <summary>{t("For developers")}</summary>
          <p style={{ overflowWrap: "anywhere" }}>
            {rich(
              "A page with a strict policy lets it in by script-src {code} {server}; connect-src {server}. Should no answer come within 400 ms, the page’s own content stands.",
              { code: <code>&apos;sha256-{hash}&apos;</code>, server },
            )}
          </p>
          <p>{t("A part of a page that is a slot by a mark of its own:")}</p>
          <pre className="code">
            {t('<div data-mirada-slot="{slot}">What stands there without Mirada</div>', { slot: slot ?? "hero" })}
          </pre>
        </details>
      </div>
    </>
  );
}
