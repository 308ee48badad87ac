/** A part of the settings with its heading, and what it is for. */
export function Section({ title, says, children }: { title: string; says: string; children: React.ReactNode }) {
  return (
    <section className="setting" aria-label={title}>
      <div>
        <h2>{title}</h2>
        <p className="quiet">{says}</p>
      </div>
      <div className="stack">{children}</div>
    </section>
  );
}
