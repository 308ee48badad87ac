"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import Drawer from "@mui/material/Drawer";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import { ArrowLeft, X } from "lucide-react";
import { useMemo, useState } from "react";
import Markdown, { type Components } from "react-markdown";
import gfm from "remark-gfm";
import { useAsked } from "../asked";
import { searchSections, sectionsOf, type Section } from "./sections";

/** Links to the web open beside; those to other documents of the project are words here. */
const components: Components = {
  a: ({ href = "", children }) =>
    /^https?:/.test(href) ? (
      <a href={href} target="_blank" rel="noreferrer">
        {children}
      </a>
    ) : (
      <em>{children}</em>
    ),
  table: ({ children }) => (
    <div className="helptable">
      <table className="grid">{children}</table>
    </div>
  ),
};
const plugins = [gfm];

/** The guides beside the screen: searched, and read section by section. */
export function HelpPanel({ onClose }: { onClose: () => void }) {
  const { value: guides, problem, again } = useAsked("guides", [], { believed: 3_600_000 });
  const sections = useMemo(
    () => (guides ? [guides.marketer, guides.glossary, guides.signals].flatMap(sectionsOf) : []),
    [guides],
  );
  const [asked, setAsked] = useState("");
  const [open, setOpen] = useState<Section>();
  const found = searchSections(sections, asked);
  return (
    <Drawer
      open
      anchor="right"
      onClose={onClose}
      slotProps={{ paper: { className: "help", "aria-labelledby": "help" } }}
    >
      <header className="row">
        {open && (
          <IconButton aria-label={t("All help")} title={t("All help")} onClick={() => setOpen(undefined)}>
            <ArrowLeft size={16} />
          </IconButton>
        )}
        <h2 id="help" style={{ flex: 1 }}>
          {open ? open.title : t("Help")}
        </h2>
        <IconButton aria-label={t("Close help")} onClick={onClose}>
          <X size={16} />
        </IconButton>
      </header>
      {open ? (
        <div className="helptext" lang="en" tabIndex={0} role="region" aria-label={open.title}>
          <Markdown components={components} remarkPlugins={plugins}>
            {open.text}
          </Markdown>
        </div>
      ) : (
        <>
          <TextField
            autoFocus
            placeholder={t("Search the guides")}
            value={asked}
            onChange={(event) => setAsked(event.target.value)}
            slotProps={{ htmlInput: { "aria-label": t("Search the guides") } }}
          />
          {problem && (
            <div className="row">
              <span className="error" role="alert" style={{ flex: 1 }}>
                {t("The guides could not be read: {problem}", { problem })}
              </span>
              <Button onClick={() => void again()}>{t("Try again")}</Button>
            </div>
          )}
          {!guides && !problem && <p className="quiet">{t("Reading the guides …")}</p>}
          {guides && found.length === 0 && (
            <p className="quiet">{t("No section has these words. Try one word, or another one.")}</p>
          )}
          <ul className="helplist" lang="en">
            {found.map((section, index) => (
              <li key={`${section.guide} ${section.title}`}>
                {section.guide !== found[index - 1]?.guide && <h3>{section.guide}</h3>}
                <button type="button" onClick={() => setOpen(section)}>
                  {section.title}
                </button>
              </li>
            ))}
          </ul>
        </>
      )}
    </Drawer>
  );
}
