/** A choice in a list, with what it means in a line below it. */
export function Explained({ id, words, means }: { id: string; words: string; means: string }) {
  return (
    <span className="explained">
      {words}
      <span className="quiet" id={id}>
        {means}
      </span>
    </span>
  );
}
