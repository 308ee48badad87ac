interface Props {
  title: string;
  says: string;
  /** What is in it needs the whole width: a table. */
  wide?: true;
  children: React.ReactNode;
}

/** A part of the settings with its heading, and what it is for. */
export function Section({ title, says, wide, children }: Props) {
  return (
    <section className={wide ? "setting wide" : "setting"} aria-label={title}>
      <div>
        <h2>{title}</h2>
        <p className="quiet">{says}</p>
      </div>
      <div className="stack">{children}</div>
    </section>
  );
}
