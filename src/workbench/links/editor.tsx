"use client";
import { t } from "@/core/messages/t";
import Autocomplete from "@mui/material/Autocomplete";
import Button from "@mui/material/Button";
import IconButton from "@mui/material/IconButton";
import TextField from "@mui/material/TextField";
import { Copy, Plus, QrCode, X } from "lucide-react";
import { useSnackbar } from "notistack";
import { useMemo, useState } from "react";
import { expectedValues } from "@/core/campaigns/expected";
import { tagNotes } from "@/core/campaigns/judge";
import {
  campaignTags,
  inOrder,
  linkSchema,
  linkText,
  queryText,
  readLink,
  type CampaignLink,
} from "@/core/campaigns/link";
import { namesInUse } from "@/core/ruleset/choices";
import { useDesk } from "../parts/desk/desk";
import { Field } from "../parts/field";
import { QrDialog } from "./qr-dialog";
import { LinkShows } from "./shows";
import { TagField } from "./tag-field";

const isOwnTag = (name: string): boolean => campaignTags.some((tag) => tag.name === name);

/** One campaign link: its address, its parameters with what rules think of them, and what it shows. */
export function LinkEditor({ link, onChange }: { link: CampaignLink; onChange: (link: CampaignLink) => void }) {
  const { links, look, pages } = useDesk();
  const { ruleset } = look.runnable;
  const { enqueueSnackbar } = useSnackbar();
  const [adding, setAdding] = useState("");
  const [qr, setQr] = useState(false);
  const others = useMemo(
    () => links.filter((item) => item.id !== link.id).flatMap((item) => item.tags),
    [links, link.id],
  );
  const notes = useMemo(() => tagNotes(link.tags, ruleset, others), [link.tags, ruleset, others]);
  const text = linkText(link, ruleset.site.origin);
  const set = (more: Partial<CampaignLink>) => onChange({ ...link, ...more });
  const setTag = (name: string, value: string) =>
    set({
      tags: inOrder(
        link.tags.some((tag) => tag.name === name)
          ? link.tags
              .map((tag) => (tag.name === name ? { name, value } : tag))
              .filter((tag) => tag.value !== "" || !isOwnTag(tag.name))
          : [...link.tags, { name, value }],
      ),
    });
  const used = (name: string) => [
    ...new Set(others.filter((tag) => tag.name === name && tag.value !== "").map((tag) => tag.value)),
  ];
  const copy = (what: string, says: string) =>
    void navigator.clipboard.writeText(what).then(
      () => enqueueSnackbar(says),
      () => enqueueSnackbar(t("The browser does not allow copying here."), { variant: "warning" }),
    );
  const free = link.tags.filter((tag) => !isOwnTag(tag.name));
  const names = namesInUse("query.", ruleset).filter((name) => !link.tags.some((tag) => tag.name === name));
  const add = (name: string) => {
    const told = name.trim();
    if (told === "" || link.tags.some((tag) => tag.name === told)) return;
    setAdding("");
    set({ tags: [...link.tags, { name: told, value: "" }] });
  };
  return (
    <>
      <section className="stack" aria-label={t("The link")}>
        <code className="code wrapped linktext" aria-label={t("The whole link")} role="group">
          {text}
        </code>
        <div className="row wrap">
          <Button
            variant="contained"
            startIcon={<Copy size={14} />}
            onClick={() => copy(text, t("The link is copied"))}
          >
            {t("Copy the link")}
          </Button>
          <Button
            onClick={() => copy(queryText(link.tags), t("The part after ? is copied"))}
            title={t("For ad systems that append it to the page’s address; their placeholders stay as they are")}
          >
            {t("Copy the part after ?")}
          </Button>
          <Button startIcon={<QrCode size={14} />} onClick={() => setQr(true)}>
            {t("QR code")}
          </Button>
        </div>
        {link.tags.some((tag) => /[{[%$*]/.test(tag.value)) && (
          <span className="quiet">
            {t("Placeholders such as {value} stay as they are: whatever sends the link fills them in.", {
              value: "{keyword}",
            })}
          </span>
        )}
      </section>
      <section className="linkform" aria-label={t("Where it leads")}>
        <Field
          label={t("Name")}
          value={link.name}
          problem={(name) =>
            name.trim() === "" ? t("Give it a name") : name.length > 120 ? t("At most 120 characters") : undefined
          }
          onCommit={(name) => set({ name })}
        />
        <Autocomplete
          freeSolo
          disableClearable
          options={pages.map((page) => page.path)}
          value={link.path}
          onChange={(_, path) => linkSchema.shape.path.safeParse(path).success && set({ path })}
          renderOption={({ key, ...props }, path) => (
            <li key={key} {...props}>
              <code>{path}</code>&nbsp;<span className="quiet">{pages.find((page) => page.path === path)?.title}</span>
            </li>
          )}
          renderInput={(params) => (
            <PathField
              params={params}
              path={link.path}
              onPath={(path) => set({ path })}
              onLink={(told) =>
                set({
                  path: told.path || link.path,
                  part: told.part || link.part,
                  tags: inOrder([
                    ...told.tags,
                    ...link.tags.filter((tag) => !told.tags.some((item) => item.name === tag.name)),
                  ]),
                })
              }
            />
          )}
        />
        <Field
          label={t("Who uses it")}
          value={link.usedBy}
          placeholder={t("The letter, an ad, a partner")}
          onCommit={(usedBy) => set({ usedBy: usedBy.slice(0, 120) })}
        />
        <Field label={t("Note")} value={link.note} onCommit={(note) => set({ note: note.slice(0, 500) })} />
      </section>
      <section className="stack" aria-label={t("Campaign")}>
        <h2>{t("Campaign")}</h2>
        <div className="linkform three">
          {campaignTags.map((tag) => (
            <TagField
              key={tag.name}
              label={tag.word}
              name={tag.name}
              example={tag.example}
              value={link.tags.find((item) => item.name === tag.name)?.value ?? ""}
              known={expectedValues(tag.name, ruleset)}
              used={used(tag.name)}
              note={notes.find((note) => note.tag === tag.name)}
              onChange={(value) => setTag(tag.name, value)}
            />
          ))}
        </div>
      </section>
      <section className="stack" aria-label={t("Other parameters")}>
        <h2>{t("Other parameters")}</h2>
        {free.map((tag) => (
          <div className="row freetag" key={tag.name}>
            <code>{tag.name}</code>
            <TagField
              label={t("Value")}
              name={tag.name}
              value={tag.value}
              known={expectedValues(tag.name, ruleset)}
              used={used(tag.name)}
              note={notes.find((note) => note.tag === tag.name)}
              onChange={(value) => setTag(tag.name, value)}
            />
            <IconButton
              size="small"
              aria-label={t("Take {tag} out", { tag: tag.name })}
              onClick={() => set({ tags: link.tags.filter((item) => item !== tag) })}
            >
              <X size={14} />
            </IconButton>
          </div>
        ))}
        <form
          className="row"
          onSubmit={(event) => {
            event.preventDefault();
            add(adding);
          }}
        >
          <Autocomplete
            freeSolo
            disableClearable
            options={names}
            inputValue={adding}
            value=""
            onInputChange={(_, name, reason) => reason !== "reset" && setAdding(name)}
            onChange={(_, name) => add(name)}
            sx={{ width: 260 }}
            renderInput={(params) => (
              <TextField {...params} label={t("Another parameter")} placeholder={names[0] ?? "gift"} />
            )}
          />
          <Button type="submit" startIcon={<Plus size={14} />}>
            {t("Add it")}
          </Button>
        </form>
      </section>
      <LinkShows link={link} />
      {qr && <QrDialog name={link.name} file={link.id} link={text} onClose={() => setQr(false)} />}
    </>
  );
}

type Told = NonNullable<ReturnType<typeof readLink>>;

/** The page; a whole link that is pasted here is taken apart. */
function PathField({
  params,
  path,
  onPath,
  onLink,
}: {
  params: object;
  path: string;
  onPath: (path: string) => void;
  onLink: (told: Told) => void;
}) {
  const [problem, setProblem] = useState<string>();
  const take = (text: string) => {
    if (text === path) return setProblem(undefined);
    const told = readLink(text);
    if (told && (told.origin !== "" || told.tags.length > 0 || told.part !== "")) {
      setProblem(undefined);
      return onLink(told);
    }
    const read = linkSchema.shape.path.safeParse(text);
    setProblem(read.success ? undefined : t("Write the page’s path, beginning with /"));
    if (read.success) onPath(text);
  };
  return (
    <TextField
      {...params}
      label={t("Page, or paste a whole link")}
      error={problem !== undefined}
      helperText={problem}
      onBlur={(event) => take(event.target.value)}
      onKeyDown={(event) => event.key === "Enter" && take((event.target as HTMLInputElement).value)}
      onPaste={(event) => {
        const told = readLink(event.clipboardData.getData("text"));
        if (!told || (told.origin === "" && told.tags.length === 0)) return;
        event.preventDefault();
        setProblem(undefined);
        onLink(told);
      }}
    />
  );
}
