"use client";
import { locale, t, within } from "@/core/messages/t";
import IconButton from "@mui/material/IconButton";
import Popover from "@mui/material/Popover";
import TextFieldBase from "@mui/material/TextField";
import Button from "@mui/material/Button";
import { EditorContent, useEditor, type Editor } from "@tiptap/react";
import StarterKit from "@tiptap/starter-kit";
import { Bold, Braces, Heading2, Italic, Link2, List, ListOrdered } from "lucide-react";
import { useSnackbar } from "notistack";
import { useCallback, useEffect, useId, useMemo, useRef, useState } from "react";
import { longestText } from "@/core/content/author";
import { isSafeLink } from "@/core/content/clean";
import type { Content } from "@/core/formats/ruleset";
import { signalInfo } from "@/core/visit/signals";
import { fromDoc, fromHtml, toEditor, type Doc } from "./convert";
import { tokensFor, type TextFieldProps } from "./text-props";
import { TokenForm, type MadeToken } from "./token-form";
import { TokenContext, TokenNode, type TokenWorld } from "./token-node";

const delay = 350;

interface Asking {
  anchor: HTMLElement;
  /** The token that is changed, and where it stands; undefined for a new one. */
  token?: { name: string; source: string; position: number };
}

/** A text whose values stand in it as chips, edited as people see it. Loaded only where a text is edited: it brings the editor along. */
export function ChipField(props: TextFieldProps & { toggle: React.ReactNode }) {
  const { label, kind, value, content, ruleset, problem, note, read, onCommit, toggle } = props;
  const id = useId();
  const { enqueueSnackbar } = useSnackbar();
  const [typed, setTyped] = useState<string>();
  const [asking, setAsking] = useState<Asking>();
  const [linking, setLinking] = useState<HTMLElement>();
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  /** Tokens that were made here and are not saved yet. */
  const [made, setMade] = useState<Content["tokens"]>({});
  const latest = useRef({ props, typed, value, made });
  useEffect(() => {
    latest.current = { props, typed, value, made };
  });

  const commit = useCallback(() => {
    clearTimeout(timer.current);
    const { props: now, typed: text, value: saved, made: fresh } = latest.current;
    if (text === undefined || text === saved || now.problem(text)) return;
    now.onCommit(text, tokensFor(now, text, fresh));
  }, []);
  useEffect(() => commit, [commit]);

  // The editor’s JSON is what our own nodes made of it.
  const sourceOf = (editor: Editor): string =>
    kind === "html" ? fromHtml(editor.getHTML()) : fromDoc(editor.getJSON() as unknown as Doc);

  const editor = useEditor({
    immediatelyRender: false,
    // Its styles are let in by the page's nonce (parts/frame.tsx).
    injectNonce: typeof window === "undefined" ? undefined : (window as { __nonce__?: string }).__nonce__,
    extensions: [
      StarterKit.configure({
        heading: kind === "html" ? { levels: [2, 3] } : false,
        link:
          kind === "html"
            ? {
                openOnClick: false,
                autolink: false,
                protocols: ["mailto", "tel"],
                HTMLAttributes: { target: null, rel: null },
              }
            : false,
        ...(kind === "html"
          ? {}
          : {
              bold: false,
              italic: false,
              strike: false,
              code: false,
              underline: false,
              bulletList: false,
              orderedList: false,
              listItem: false,
              listKeymap: false,
              blockquote: false,
              codeBlock: false,
              horizontalRule: false,
              hardBreak: false,
            }),
        trailingNode: false,
      }),
      TokenNode,
    ],
    content: toEditor(value, kind) ?? "",
    editorProps: {
      attributes: {
        role: "textbox",
        "aria-label": label,
        "aria-multiline": String(kind !== "line"),
        "aria-describedby": `${id}-help`,
      },
      handleKeyDown: (_, event) => kind === "line" && event.key === "Enter",
      handlePaste: (_, event) => {
        // What is longer than any text may be is not taken from the clipboard: an editor would choke on it.
        const size = event.clipboardData?.getData("text/plain").length ?? 0;
        if (size <= longestText) return false;
        enqueueSnackbar(
          t("Not pasted into {label}: {size} characters are too many.", {
            label: within(label),
            size: size.toLocaleString(locale()),
          }),
          { variant: "error" },
        );
        return true;
      },
      // Of what is pasted into plain text only the text counts; a line stays a line.
      ...(kind === "html"
        ? {}
        : {
            transformPastedText: (text: string) => (kind === "line" ? text.replace(/\s*[\r\n]+\s*/g, " ") : text),
            transformPastedHTML: (html: string) =>
              kind === "line" ? html.replace(/<\/?(p|br|div|li|h\d)[^>]*>/gi, " ") : html,
          }),
    },
    onUpdate: ({ editor: own }) => {
      setTyped(sourceOf(own));
      clearTimeout(timer.current);
      timer.current = setTimeout(commit, delay);
    },
    onBlur: () => {
      commit();
      const { typed: text, props: now } = latest.current;
      if (text !== undefined && !now.problem(text)) setTyped(undefined);
    },
  });

  // What was undone or changed elsewhere is taken up, unless somebody is typing here.
  useEffect(() => {
    if (!editor || typed !== undefined || sourceOf(editor) === value) return;
    // What was saved may be written otherwise than the editor would: the cursor stays where it was.
    const { from, to } = editor.state.selection;
    editor.commands.setContent(toEditor(value, kind) ?? "", { emitUpdate: false });
    const end = editor.state.doc.content.size;
    editor.commands.setTextSelection({ from: Math.min(from, end), to: Math.min(to, end) });
    // eslint-disable-next-line react-hooks/exhaustive-deps -- only when what is saved changes
  }, [value, typed, editor]);

  const text = typed ?? value;
  const wrong = problem(text);
  const world: TokenWorld = useMemo(
    () => ({
      read,
      label: (name) => {
        const token = Object.hasOwn(content.tokens, name) ? content.tokens[name] : made[name];
        return token ? (signalInfo(token.signal, ruleset)?.label ?? token.signal) : name;
      },
      edit: (at) => setAsking({ anchor: at.anchor, token: at }),
    }),
    [read, content.tokens, made, ruleset],
  );
  const putIn = (token: MadeToken) => {
    if (!editor) return;
    const more = { ...made, [token.name]: token.token };
    setMade(more);
    const node = { type: "token", attrs: { name: token.name, source: token.source } };
    const at = asking?.token?.position;
    setAsking(undefined);
    const chain = editor.chain().focus();
    if (at === undefined) chain.insertContent(node).run();
    else
      chain
        .deleteRange({ from: at, to: at + 1 })
        .insertContentAt(at, node)
        .run();
    // A new fallback is saved even where the text itself stays the same.
    const next = sourceOf(editor);
    if (next === value) onCommit(next, tokensFor(props, next, more));
  };
  const takeOut = () => {
    const at = asking?.token?.position;
    setAsking(undefined);
    if (at !== undefined)
      editor
        ?.chain()
        .focus()
        .deleteRange({ from: at, to: at + 1 })
        .run();
  };
  return (
    <TokenContext value={world}>
      <div className={`chipfield ${kind}${wrong ? " wrong" : ""}`}>
        <span className="legend" aria-hidden>
          {label}
        </span>
        <div className="tools">
          {kind === "html" && editor && <RichTools editor={editor} onLink={setLinking} />}
          <IconButton
            size="small"
            aria-label={t("Insert a value into {label}", { label })}
            title={t("Insert a value of the visit: a name from the link, what is to go in the cart …")}
            onClick={(event) => setAsking({ anchor: event.currentTarget })}
          >
            <Braces size={14} />
          </IconButton>
          {toggle}
        </div>
        <EditorContent editor={editor} />
        <span id={`${id}-help`} className={wrong ? "error" : "quiet"} role={wrong ? "alert" : undefined}>
          {wrong ?? note}
        </span>
      </div>
      <Popover
        open={asking !== undefined}
        anchorEl={asking?.anchor ?? null}
        onClose={() => setAsking(undefined)}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{ paper: { sx: { p: 4, width: 340 } } }}
        // The list that opens with it is placed by where it stands: not by where it still grows.
        transitionDuration={0}
      >
        {asking && (
          <TokenForm
            content={{ ...content, tokens: { ...content.tokens, ...made } }}
            ruleset={ruleset}
            token={asking.token}
            onDone={putIn}
            onRemove={asking.token && takeOut}
          />
        )}
      </Popover>
      <Popover
        open={linking !== undefined}
        anchorEl={linking ?? null}
        onClose={() => setLinking(undefined)}
        anchorOrigin={{ vertical: "bottom", horizontal: "left" }}
        slotProps={{ paper: { sx: { p: 4, width: 320 } } }}
      >
        {linking && editor && <LinkForm editor={editor} onDone={() => setLinking(undefined)} />}
      </Popover>
    </TokenContext>
  );
}

function RichTools({ editor, onLink }: { editor: Editor; onLink: (anchor: HTMLElement) => void }) {
  const tool = (name: string, active: boolean, icon: React.ReactNode, run: () => void) => (
    <IconButton size="small" aria-label={name} title={name} aria-pressed={active} onClick={run}>
      {icon}
    </IconButton>
  );
  const chain = () => editor.chain().focus();
  return (
    <>
      {tool(t("Bold"), editor.isActive("bold"), <Bold size={14} />, () => chain().toggleBold().run())}
      {tool(t("Italic"), editor.isActive("italic"), <Italic size={14} />, () => chain().toggleItalic().run())}
      {tool(t("Heading"), editor.isActive("heading"), <Heading2 size={14} />, () =>
        chain().toggleHeading({ level: 2 }).run(),
      )}
      {tool(t("List"), editor.isActive("bulletList"), <List size={14} />, () => chain().toggleBulletList().run())}
      {tool(t("Numbered list"), editor.isActive("orderedList"), <ListOrdered size={14} />, () =>
        chain().toggleOrderedList().run(),
      )}
      <IconButton
        size="small"
        aria-label={t("Link")}
        title={t("Link")}
        aria-pressed={editor.isActive("link")}
        onClick={(event) => onLink(event.currentTarget)}
      >
        <Link2 size={14} />
      </IconButton>
    </>
  );
}

function LinkForm({ editor, onDone }: { editor: Editor; onDone: () => void }) {
  const [to, setTo] = useState(String(editor.getAttributes("link").href ?? ""));
  const wrong =
    to !== "" && !isSafeLink(to)
      ? t("Links lead to the web, to mail or telephone, or to a page of the site")
      : undefined;
  return (
    <form
      className="stack"
      onSubmit={(event) => {
        event.preventDefault();
        event.stopPropagation();
        if (wrong) return;
        const chain = editor.chain().focus().extendMarkRange("link");
        if (to === "") chain.unsetLink().run();
        else if (editor.state.selection.empty && !editor.isActive("link"))
          chain.insertContent({ type: "text", text: to, marks: [{ type: "link", attrs: { href: to } }] }).run();
        else chain.setLink({ href: to }).run();
        onDone();
      }}
    >
      <TextFieldBase
        label={t("Leads to")}
        autoFocus
        value={to}
        error={wrong !== undefined}
        helperText={wrong ?? t("Empty: no link")}
        onChange={(event) => setTo(event.target.value.trim())}
      />
      <div className="row">
        <Button type="submit" variant="contained" disabled={wrong !== undefined}>
          {to === "" ? t("No link") : t("Link it")}
        </Button>
      </div>
    </form>
  );
}
